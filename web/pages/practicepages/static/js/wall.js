// What a class says shows up by itself; on the wall arrows lead on and back, and Space shows the answer.
import Idiomorph from '../vendor/idiomorph.js';

const every = 2000; // ms

async function refresh() {
  if (document.hidden) return;
  const res = await fetch(window.location.href).catch(() => null);
  if (!res?.ok) return; // it is tried again
  const fresh = new DOMParser().parseFromString(await res.text(), 'text/html').querySelector('[data-fresh]');
  const old = document.querySelector('[data-fresh]');
  if (fresh && old) Idiomorph.morph(old, fresh);
}

(async function follow() {
  await refresh();
  setTimeout(follow, every);
}());

document.addEventListener('keydown', (e) => {
  const wants = { ArrowRight: '[rel=next]', ArrowLeft: '[rel=prev]', ' ': '[data-show]' }[e.key];
  const link = wants && !e.target.closest('a, button, input') && document.querySelector(`.onwallnav ${wants}`);
  if (!link) return;
  e.preventDefault();
  link.click();
});
