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

const shown = (el) => el && el.isConnected && el.getClientRects().length > 0 && !el.disabled;

// keepFocus remembers where the focus is, and gives what puts it back after
// rows have moved or gone: the same element, or the same control of the row
// that took its place, or what the list is added to with.
export function keepFocus() {
  const el = document.activeElement;
  if (!el || el === document.body) return () => {};
  const row = el.closest('[data-row]');
  const list = row && row.parentElement;
  const at = row ? [...list.querySelectorAll(':scope > [data-row]')].indexOf(row) : -1;
  const inRow = row ? [...row.querySelectorAll('button, input, a[href], [tabindex]')].indexOf(el) : -1;
  const home = el.closest('section, main');
  return () => {
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
