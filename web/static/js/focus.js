// focusShown gives the focus to an element that is just being shown: that
// happens a frame or two after it is said, and until then it takes no focus.
export function focusShown(find, tries = 30) {
  const el = find();
  if (el) el.focus();
  if ((!el || document.activeElement !== el) && tries > 0) requestAnimationFrame(() => focusShown(find, tries - 1));
}
