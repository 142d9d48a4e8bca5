// focusShown gives the focus to an element that is just being shown: that
// happens a frame or two after it is said, and until then it takes no focus.
// When she has gone elsewhere in the meantime it is left there.
export function focusShown(find, tries = 30, from = document.activeElement) {
  const el = find();
  const now = document.activeElement;
  if (now !== from && now !== document.body && now !== el) return;
  if (el) el.focus();
  if ((!el || document.activeElement !== el) && tries > 0) requestAnimationFrame(() => focusShown(find, tries - 1, from));
}

// What a finger is on stays where it is: a press is a press only where it comes down and goes
// up on the same thing, so nothing is shown anew in between. A finger that rests is not waited for.
const pressable = 'button, a[href], summary, label, select, input';
let pressed = null; // what was pressed last
let lift = null;
let up = Promise.resolve();
document.addEventListener('pointerdown', (e) => {
  pressed = e.target.closest ? e.target.closest(pressable) : null;
  if (!pressed) return;
  up = new Promise((done) => { lift = done; });
  setTimeout(lift, 1000);
}, true);
document.addEventListener('keydown', () => { pressed = null; }, true);
// The click comes after the finger went up.
for (const end of ['pointerup', 'pointercancel']) document.addEventListener(end, () => { if (lift) setTimeout(lift, 0); }, true);
export const lifted = () => up;

// keepPlace remembers how high on the screen the thing stands that has the focus or was pressed
// last, and gives what scrolls it back to there after what is above it has grown or shrunk.
function keepPlace() {
  const focused = document.activeElement;
  const el = [pressed, focused].find((o) => o && o !== document.body && shown(o));
  const was = el ? el.getBoundingClientRect() : null;
  if (!el || was.bottom < 0 || was.top > window.innerHeight) return () => {};
  const put = () => {
    if (!shown(el)) return;
    const off = el.getBoundingClientRect().top - was.top;
    if (Math.abs(off) >= 1) window.scrollBy({ top: off, behavior: 'instant' });
  };
  // What is shown where nothing was comes a moment later than the rest. It is put right in the same turn, so that no press
  // comes between: one that was aimed at a fibre would fall on what had slid under the pointer.
  const seen = new MutationObserver(put);
  seen.observe(document.body, { subtree: true, childList: true, attributes: true, attributeFilter: ['style'] });
  return () => {
    put();
    requestAnimationFrame(() => setTimeout(() => seen.disconnect()));
  };
}

const shown = (el) => el && el.isConnected && el.getClientRects().length > 0 && !el.disabled;

// keepFocus remembers where the focus is, and gives what puts it back after
// rows have moved or gone: the same element, at the same height of the screen, or the same control
// of the row that took its place, or what the list is added to with.
export function keepFocus() {
  const el = document.activeElement;
  const place = keepPlace();
  if (!el || el === document.body) return place;
  const row = el.closest('[data-row]');
  const list = row && row.parentElement;
  const at = row ? [...list.querySelectorAll(':scope > [data-row]')].indexOf(row) : -1;
  const inRow = row ? [...row.querySelectorAll('button, input, a[href], [tabindex]')].indexOf(el) : -1;
  const home = el.closest('section, main');
  let left = false; // she has pressed beside it, and does not want it back
  const press = (e) => { left = !(e.target.closest && e.target.closest(pressable)); };
  document.addEventListener('pointerdown', press, true);
  return () => {
    document.removeEventListener('pointerdown', press, true);
    place();
    if (left) return;
    if (document.activeElement !== document.body && document.activeElement !== null) return;
    if (shown(el)) {
      el.focus({ preventScroll: true });
      return;
    }
    const rows = list ? [...list.querySelectorAll(':scope > [data-row]')] : [];
    const next = rows[Math.min(at, rows.length - 1)];
    const inside = next ? [...next.querySelectorAll('button, input, a[href], [tabindex]')] : [];
    const to = [inside[inRow], ...inside, ...(home ? home.querySelectorAll('button, input, a[href]') : [])].find(shown);
    if (to) to.focus({ preventScroll: true });
  };
}
