// How the main views pace on a slow tablet: a processor four times slower. What is
// measured is printed; only what no machine's noise can hide is asserted.
import { test, expect } from './world.js';

test.use({ verb: 'world' });

// Where the focus goes, and the key that is pressed there: keys alone, since a
// driven mouse runs scripts of its own while the page is timed.
const views = {
  makings: ['/makings'],
  making: ['/makings/3'],
  shelf: ['/shelf'],
  blend: ['/blends/6', 'section [role=slider]', 'ArrowRight'],
  gradient: ['/gradients/1', '.stopname', 'Alt+ArrowDown'],
  'lay-up': ['/layups/1', '.layerhead', 'Enter'],
  carder: ['/layups/1/bench', 'body', 'ArrowRight'],
  scale: ['/weighouts/1/scale', '#said', '5'],
};

test('pages are light for a slow tablet', async ({ page }) => {
  const session = await page.context().newCDPSession(page);
  await session.send('Emulation.setCPUThrottlingRate', { rate: 4 });
  await page.addInitScript(() => {
    window.pace = { lcp: 0, what: '', event: 0, task: 0 };
    new PerformanceObserver((l) => l.getEntries().forEach((e) => {
      window.pace.lcp = e.startTime;
      window.pace.what = e.element ? `${e.element.localName}.${e.element.className}` : '';
    })).observe({ type: 'largest-contentful-paint', buffered: true });
    new PerformanceObserver((l) => l.getEntries().forEach((e) => { window.pace.event = Math.max(window.pace.event, e.duration); }))
      .observe({ type: 'event', durationThreshold: 16, buffered: true });
    new PerformanceObserver((l) => l.getEntries().forEach((e) => { window.pace.task = Math.max(window.pace.task, e.duration); }))
      .observe({ type: 'longtask', buffered: true });
  });
  for (const [name, [path, at, key]] of Object.entries(views)) {
    await page.goto(path);
    await expect.poll(() => page.evaluate(() => window.pace.lcp), `${name} is painted`).toBeGreaterThan(0);
    await page.waitForTimeout(500);
    const { lcp, what } = await page.evaluate(() => window.pace);
    if (key) {
      await page.locator(at).first().focus();
      await page.waitForTimeout(200);
      await page.evaluate(() => { window.pace.event = 0; });
      await page.keyboard.press(key);
    }
    await page.waitForTimeout(500);
    const { event, task } = await page.evaluate(() => window.pace);
    const requests = await page.evaluate(() => performance.getEntriesByType('resource').length);
    console.log(`${name}: largest paint ${Math.round(lcp)} ms (${what}), slowest event ${Math.round(event)} ms, longest task ${Math.round(task)} ms, ${requests} requests`);
  }
});
