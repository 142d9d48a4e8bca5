// Numbers lie on the photo where the tufts do.
for (const li of document.querySelectorAll('.tuftphoto li')) {
  li.style.left = `${li.dataset.x / 10}%`;
  li.style.top = `${li.dataset.y / 10}%`;
}
