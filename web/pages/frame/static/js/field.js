// x-field: a field that shows what stands there, and is the maker's while she
// has it. Its text is an expression; what she commits (Enter, or leaving the
// field) goes out as the event "typed" with the text, and whoever handles it
// says by detail.sent(promise) when that change was answered. Until then, and
// while she types, answers to other changes go around it; what was refused
// stays in it until she changes it, or gives it up with Escape.
import Alpine from '../vendor/alpine.js';

const atOnce = (el) => el.tagName === 'SELECT' || ['color', 'checkbox', 'radio', 'range'].includes(el.type);

const kept = new Set(); // the fields in which something is typed and not saved

// unsaved gives a field with something in it that is not saved, if there is one.
export function unsaved() {
  for (const el of kept) if (el.isConnected) return el;
  return null;
}

// commitAll sends what is typed and not sent yet.
export function commitAll() {
  for (const el of [...kept]) el.dispatchEvent(new Event('commit'));
}

Alpine.directive('field', (el, { expression }, { evaluateLater, effect, cleanup }) => {
  const read = evaluateLater(expression);
  let stands = '';
  let typing = false; // there is text that was not sent
  let sent = 0; // changes on their way
  let refused = false;
  let touched = false; // a key or the pointer since the last change was sent
  const hers = () => typing || sent > 0 || refused;
  const note = () => (hers() ? kept.add(el) : kept.delete(el));
  const focused = () => document.activeElement === el;
  const put = (all) => {
    if (el.value !== stands) el.value = stands;
    if (all) el.select();
  };

  // settle shows what stands there, where that disturbs nothing: never over what
  // she has typed, and in the field at hand only where all of it is selected, so
  // that the next key still replaces it.
  const settle = () => {
    if (hers() || el.value === stands) return;
    if (!focused() || atOnce(el)) put(false);
    else if (el.selectionStart === 0 && el.selectionEnd === el.value.length) put(true);
  };
  const answered = (ok) => {
    sent -= 1;
    if (!typing && sent === 0) refused = ok === false;
    note();
    if (hers()) return;
    if (focused() && !touched && !atOnce(el)) put(false);
    else settle();
  };
  const commit = () => {
    if (!typing) return;
    typing = false;
    touched = false;
    refused = false;
    sent += 1;
    note();
    let wait = null;
    el.dispatchEvent(new CustomEvent('typed', { bubbles: true, detail: { text: el.value, sent: (p) => { wait = p; } } }));
    Promise.resolve(wait).then(answered, () => answered(false));
  };
  const giveUp = () => {
    typing = false;
    refused = false;
    note();
    if (sent > 0) return;
    put(false);
    el.dispatchEvent(new CustomEvent('given-up', { bubbles: true }));
  };

  el.addEventListener('input', () => {
    typing = true;
    touched = true;
    note();
  });
  el.addEventListener('change', () => { if (atOnce(el)) commit(); });
  el.addEventListener('commit', commit);
  el.addEventListener('pointerdown', () => { touched = true; });
  el.addEventListener('keydown', (e) => {
    if (e.key === 'Enter' && !atOnce(el)) {
      e.preventDefault();
      commit();
      return;
    }
    touched = true;
    if (e.key === 'Escape' && hers()) {
      e.stopPropagation();
      giveUp();
    }
  });
  el.addEventListener('blur', () => {
    commit();
    settle();
  });
  effect(() => read((v) => {
    stands = String(v ?? '');
    settle();
  }));
  cleanup(() => kept.delete(el));
});
