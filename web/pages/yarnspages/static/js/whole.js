// The row of blends is put in another order by dragging, too; what is dropped goes the way of the arrows' buttons.
const list = document.querySelector('.wholerow');
let held = null;
for (const li of list ? list.children : []) {
  li.draggable = true;
  li.addEventListener('dragstart', (e) => {
    held = li;
    e.dataTransfer.effectAllowed = 'move';
    e.dataTransfer.setData('text/plain', li.querySelector('a').textContent);
  });
  li.addEventListener('dragend', () => { held = null; });
  li.addEventListener('dragover', (e) => { if (held) e.preventDefault(); });
  li.addEventListener('drop', (e) => {
    if (!held || held === li) return;
    e.preventDefault();
    const all = [...list.children];
    const ids = all.map((v) => v.dataset.id).filter((id) => id !== held.dataset.id);
    const at = ids.indexOf(li.dataset.id);
    ids.splice(all.indexOf(held) < all.indexOf(li) ? at + 1 : at, 0, held.dataset.id);
    const [, left] = list.dataset.row.split('~');
    const form = document.getElementById('rowform');
    const row = form.appendChild(Object.assign(document.createElement('input'), { type: 'hidden', name: 'row' }));
    row.value = left ? `${ids.join(',')}~${left}` : ids.join(',');
    form.submit();
  });
}
