// Shows the parts as numbers while they are set, and the batt that they make a moment later.
const form = document.querySelector('form[data-batt]');
const calm = 300; // ms
let timer;

function parts() {
  return [...form.querySelectorAll('input[type=range]')].map((i) => i.value);
}

function draw() {
  const yours = form.querySelector('[data-yours]');
  if (!yours || !parts().some((p) => Number(p) > 0)) return;
  const to = new URL(form.dataset.batt, window.location.href);
  to.searchParams.set('parts', parts().join('_'));
  yours.src = to;
  yours.hidden = false;
}

const look = form?.querySelector('[data-look]');
if (look) look.hidden = true; // it is looked at by itself

form?.addEventListener('input', (e) => {
  if (e.target.type !== 'range') return;
  e.target.nextElementSibling.value = e.target.value;
  clearTimeout(timer);
  timer = setTimeout(draw, calm);
});
