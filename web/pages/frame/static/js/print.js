for (const b of document.querySelectorAll('[data-print]')) b.addEventListener('click', () => window.print());
