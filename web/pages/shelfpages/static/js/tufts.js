// Numbers lie on the photo where the tufts do; where it is clicked, a spot is added.
for (const li of document.querySelectorAll('.tuftphoto li')) {
  li.style.left = `${li.dataset.x / 10}%`;
  li.style.top = `${li.dataset.y / 10}%`;
}
const spot = document.querySelector('.spot button');
const photo = document.querySelector('.tuftphoto');
if (spot && photo) {
  let sent = false; // one click at a time: the page comes back with it
  window.addEventListener('pageshow', () => { sent = false; });
  photo.addEventListener('click', (e) => {
    if (sent) return;
    sent = true;
    const at = photo.querySelector('img').getBoundingClientRect();
    const { across, down } = spot.form.elements;
    across.value = ((100 * (e.clientX - at.left)) / at.width).toFixed(1);
    down.value = ((100 * (e.clientY - at.top)) / at.height).toFixed(1);
    spot.form.requestSubmit(spot);
  });
}
