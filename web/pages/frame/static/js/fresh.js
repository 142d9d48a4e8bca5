// Going back shows what is so now, not what was so then. Pages that are a form
// being filled in are left as they are.
window.addEventListener('pageshow', (e) => {
  const [nav] = performance.getEntriesByType('navigation');
  const back = e.persisted || (nav && nav.type === 'back_forward');
  if (back && !document.querySelector('.narrow form')) window.location.reload();
});
