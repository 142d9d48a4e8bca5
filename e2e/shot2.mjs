import { chromium } from '@playwright/test';
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const p = await b.newPage({ viewport: { width: 1280, height: 800 }, deviceScaleFactor: 2 });
await p.goto('http://127.0.0.1:7711/layups/3/card'); await p.waitForTimeout(2500);
await p.screenshot({ path: '/tmp/c1.png', clip: { x: 20, y: 380, width: 480, height: 280 } });
await p.goto('http://127.0.0.1:7711/layups/4/card'); await p.waitForTimeout(2500);
await p.locator('.heldlist').screenshot({ path: '/tmp/c2.png' });
await b.close();
