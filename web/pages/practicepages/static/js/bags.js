// Shows the bags whose name holds what is typed; those that are chosen stay in sight.
const find = document.querySelector('[data-find]');
if (find) {
  find.hidden = false;
  find.addEventListener('input', () => {
    const words = find.value.trim().toLowerCase();
    for (const bag of document.querySelectorAll('.baglist .check')) {
      bag.hidden = !bag.textContent.toLowerCase().includes(words) && !bag.querySelector('input').checked;
    }
  });
  find.addEventListener('keydown', (e) => {
    if (e.key === 'Enter') e.preventDefault(); // it searches, and sends nothing
  });
}
