import { chromium } from '@playwright/test';
const [,, w, ...paths] = process.argv;
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--headless','--no-sandbox','--disable-gpu','--disable-quic','--no-first-run','--disable-background-networking','--disable-component-update','--disable-sync'] });
const p = await b.newPage({ viewport: { width: +w, height: 800 } });
p.on('console', m => console.log('console', m.type(), m.text()));
p.on('pageerror', e => console.log('pageerror', e.message));
for (const path of paths) {
  await p.goto('http://127.0.0.1:8099' + path, { waitUntil: 'networkidle' });
  const n = '/tmp/ft/' + (path.replace(/[^a-z0-9]+/gi, '_') || 'root') + '_' + w + '.png';
  await p.screenshot({ path: n, fullPage: process.env.FULL === '1' });
  console.log(n);
}
await b.close();
