const $ = (id) => document.getElementById(id);
let out = false;
async function ask(path, method) {
  try {
    const res = await fetch(path.replace(/^\//, ''), { method: method || 'GET', headers: { 'X-Pan': '1' } });
    if (!res.ok) return;
    const v = await res.json();
    out = v.unplugged;
    const [mark, , value] = v.line.split(',');
    $('line').innerHTML = '<small></small>';
    $('line').firstChild.textContent = out ? 'unplugged' : v.line === 'OL' ? 'too much' : mark === 'ST' ? 'stable' : 'moving';
    $('line').append(out ? '–' : value || v.line);
    $('on').textContent = v.on;
    $('cap').textContent = v.capacity;
    $('plug').textContent = out ? 'Plug it in' : 'Unplug';
  } catch { $('line').textContent = 'gone'; }
}
const post = (path) => ask(path, 'POST');
for (const b of document.querySelectorAll('[data-put]')) b.addEventListener('click', () => post(`/put?grams=${b.dataset.put}`));
$('put').addEventListener('submit', (e) => { e.preventDefault(); post(`/put?grams=${encodeURIComponent($('grams').value.replace(',', '.'))}`); });
$('clear').addEventListener('click', () => post('/clear'));
$('tare').addEventListener('click', () => post('/tare'));
$('plug').addEventListener('click', () => post(`/unplug?out=${out ? 'no' : 'yes'}`));
setInterval(() => ask('/state'), 200);
