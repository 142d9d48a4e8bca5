// A form that takes its time says so, and is not sent twice.
document.addEventListener('submit', (e) => {
  const { busy } = e.target.dataset;
  if (!busy) return;
  const said = document.createElement('p');
  said.className = 'hint busy';
  said.setAttribute('role', 'status');
  said.textContent = busy;
  e.target.append(said);
  setTimeout(() => { for (const b of e.target.querySelectorAll('button')) b.disabled = true; });
});

window.addEventListener('pageshow', () => {
  for (const form of document.querySelectorAll('form[data-busy]')) {
    form.querySelector('.busy')?.remove();
    for (const b of form.querySelectorAll('button')) b.disabled = false;
  }
});
