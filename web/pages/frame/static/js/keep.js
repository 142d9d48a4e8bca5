// Saves a picture beside its button as PNG, twice as large as it is drawn.
const times = 2;

for (const b of document.querySelectorAll('[data-png]')) {
  b.addEventListener('click', async () => {
    const img = b.closest('figure').querySelector('img');
    await img.decode();
    const canvas = document.createElement('canvas');
    canvas.width = img.naturalWidth * times;
    canvas.height = img.naturalHeight * times;
    canvas.getContext('2d').drawImage(img, 0, 0, canvas.width, canvas.height);
    const blob = await new Promise((done) => { canvas.toBlob(done, 'image/png'); });
    const link = document.createElement('a');
    link.href = URL.createObjectURL(blob);
    link.download = b.dataset.png;
    link.click();
    URL.revokeObjectURL(link.href);
  });
}
