// Keeps a colour picker and the field beside it the same.
for (const picker of document.querySelectorAll('input.picker[data-for]')) {
  const field = document.getElementById(picker.dataset.for);
  picker.addEventListener('input', () => { field.value = picker.value; });
  field.addEventListener('input', () => {
    if (/^#[0-9a-f]{6}$/i.test(field.value)) picker.value = field.value;
  });
}
