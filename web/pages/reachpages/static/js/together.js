// Lays each lot where its colour has it on the table; the list beside it says the same.
for (const el of document.querySelectorAll('.spread [data-x]')) {
  el.style.left = `${el.dataset.x}%`;
  el.style.top = `${el.dataset.y}%`;
}
