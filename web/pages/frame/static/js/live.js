// Forms marked data-live show the answer to what is typed without a button: the form is fetched as
// a page, and the part it names becomes what it is there; what is the same, and has the focus, stays.
import Idiomorph from '../vendor/idiomorph.js';

for (const form of document.querySelectorAll('form[data-live]')) {
  const target = form.dataset.live;
  let timer = 0;
  let latest = 0;
  const refresh = async () => {
    const turn = ++latest;
    const url = `${form.dataset.liveUrl || form.getAttribute('action')}?${new URLSearchParams(new FormData(form))}`;
    const res = await fetch(url).catch(() => null);
    if (!res || turn !== latest) return;
    const page = new DOMParser().parseFromString(await res.text(), 'text/html');
    const fresh = page.querySelector(target);
    const old = document.querySelector(target);
    if (!fresh || !old || turn !== latest) return;
    Idiomorph.morph(old, fresh, { ignoreActiveValue: true });
    const found = page.querySelector('.headline .sub');
    const sub = document.querySelector('.headline .sub');
    if (found && sub) Idiomorph.morph(sub, found);
    if (form.method === 'get') window.history.replaceState(null, '', url);
  };
  form.addEventListener('input', () => {
    clearTimeout(timer);
    timer = setTimeout(refresh, 180);
  });
  if (form.method === 'get') {
    form.addEventListener('submit', (e) => {
      e.preventDefault();
      refresh();
    });
  }
}
