// The ground is switched where one is, without losing what is being typed.
for (const form of document.querySelectorAll('form.grounds')) {
  form.addEventListener('submit', async (e) => {
    e.preventDefault();
    const chosen = e.submitter.value;
    document.documentElement.dataset.ground = chosen;
    for (const b of form.querySelectorAll('button')) b.setAttribute('aria-pressed', String(b.value === chosen));
    for (const img of document.querySelectorAll('img[src*="strand.svg"]')) {
      const url = new URL(img.src);
      url.searchParams.set('g', chosen);
      img.src = url.href;
    }
    window.dispatchEvent(new Event('resize')); // drawings take their inks anew
    const body = new URLSearchParams({ ground: chosen });
    await fetch(form.action, { method: 'POST', headers: { Accept: 'application/json' }, body }).catch(() => {});
  });
}
