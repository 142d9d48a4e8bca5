// Keeps a colour picker and the field beside it the same. How the colour is known follows from which of them was used, until
// it is said otherwise.
for (const picker of document.querySelectorAll('input.picker[data-for]')) {
  const field = document.getElementById(picker.dataset.for);
  const row = picker.closest('tr');
  const known = row && row.querySelector('select[name^="source"]');
  let said = false;
  if (known) known.addEventListener('change', () => { said = true; });
  const knownBy = (how) => {
    if (known && !said && ['picker', 'value'].includes(known.value)) known.value = how;
  };
  picker.addEventListener('input', () => {
    field.value = picker.value;
    knownBy('picker');
  });
  field.addEventListener('input', () => {
    if (!/^#[0-9a-f]{6}$/i.test(field.value)) return;
    picker.value = field.value;
    knownBy('value');
  });
}
