// Going back shows what is so now, not what was so then. Pages that are a form
// being filled in are left as they are.
window.addEventListener('pageshow', (e) => {
  const [nav] = performance.getEntriesByType('navigation');
  const back = e.persisted || (nav && nav.type === 'back_forward');
  if (back && !document.querySelector('.narrow form')) window.location.reload();
});
// Where the program does not answer the browser shows a page that it kept.
if ('serviceWorker' in navigator) navigator.serviceWorker.register('/sw.js').catch(() => null); // by a certificate that it does not know it keeps none
