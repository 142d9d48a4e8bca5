// Sets the text of labels smaller until all of it is there; where that is too small to be read, it says so. Sizes are in mm.
const usual = 2.7;
const smallest = 1.6;
const step = 0.1;

const sheets = document.querySelector('.labelsheets');
if (sheets) {
  await document.fonts.ready;
  const texts = [...sheets.querySelectorAll('.labeltext')];
  const over = (t) => t.lastElementChild.getBoundingClientRect().bottom > t.getBoundingClientRect().bottom;
  let size = usual;
  while (texts.some(over) && size > smallest) {
    size -= step;
    sheets.style.setProperty('--set', `${size.toFixed(1)}px`);
  }
  sheets.querySelector('[data-toolong]').hidden = !texts.some(over);
}
