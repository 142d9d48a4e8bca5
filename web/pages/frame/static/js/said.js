// x-said: a sentence that the program gives, with the words of the field in it as links to the guide.
import Alpine from '../vendor/alpine.js';

const terms = { CIEDE2000: 'ciede2000', heathered: 'heathered', marled: 'marled', streaky: 'streaky' };
const word = new RegExp(`\\b(${Object.keys(terms).join('|')})\\b`);

function link(text) {
  const a = document.createElement('a');
  a.className = 'term';
  a.href = `/guide#${terms[text]}`;
  a.textContent = text;
  return a;
}

Alpine.directive('said', (el, { expression }, { evaluateLater, effect }) => {
  const read = evaluateLater(expression);
  effect(() => read((v) => {
    const text = String(v ?? '');
    if (el.textContent === text) return;
    el.replaceChildren(...text.split(word).map((part) => (terms[part] ? link(part) : part)));
  }));
});
