import { test, expect, axe, opened, settled } from './world.js';

test.use({ verb: 'demo' });

const screens = [
  '/shelf', '/shelf?view=table', '/shelf?q=nothing+like+it', '/lots/29', '/lots/new', '/lots/1/edit', '/shelf/import', '/makings', '/makings?show=put-away',
  '/makings/3', '/makings/3/weighlist', '/blends/6', '/blends/6/weigh', '/blends/6/weigh?units=x&finished_g=-1&passes=2&step_g=0.1', '/weighouts/1', '/weighouts/1/scale',
  '/layups/3', '/layups/4', '/layups/1/bench', '/layups/1/card', '/layups/4/card', '/blends/9/layup', '/gradients/1', '/scraps', '/scraps/1', '/photos', '/photos/1', '/calibration', '/calibration?sample=2', '/lots/12', '/workshop', '/equipment/1', '/equipment/1/book', '/blends/6/weigh?sample=1', '/needs/1', '/makings/2/need', '/buy', '/buy?making=3', '/equipment/new?preset=board_small', '/kinds', '/kinds/new?like=romney', '/runs/1', '/runs/1/record', '/runs/2', '/lots/34', '/lots/33', '/notebook', '/day', '/notebook/swatches', '/notebook/beside?with=carding-1&with=carding-1', '/runs/1/card', '/layups/3/yarn', '/makings/2/yarn', '/makings/2/skeins/new', '/yarnsamples/1', '/yarnsamples/1/card', '/bin', '/api', '/nothing-here',
];

// All screens on light ground, by halves; the other grounds only change colours,
// and share the screens between them.
for (const [ground, half] of [['light', 0], ['light', 1], ['mid', 0], ['dark', 1]]) {
  test(`axe finds nothing on ${ground} ground, ${half ? 'odd' : 'even'} screens`, async ({ page }) => {
    test.setTimeout(300_000);
    await page.goto('/makings');
    await page.getByRole('button', { name: `${ground} ground` }).click();
    await expect(page.locator('html')).toHaveAttribute('data-ground', ground);
    for (const path of screens.filter((_, i) => i % 2 === half)) {
      const shown = await page.request.get(path);
      await page.setContent('<p>between</p>');
      if (shown.status() >= 400) await page.route('**' + path, (r) => r.fulfill({ response: shown, status: 200 }));
      await opened(page, path);
      await axe(page, path, ground === 'light' ? null : ['color-contrast']);
    }
  });
}

test('axe finds nothing in the states of blend and scale', async ({ page }) => {
  await page.goto('/blends/6');
  await page.getByRole('button', { name: 'Add fibre' }).click();
  await expect(page.locator('.picks li').first()).toBeVisible();
  await axe(page, 'adding fibre');
  await page.getByRole('button', { name: 'Done adding' }).click();
  await page.getByRole('button', { name: 'Show parts' }).click();
  await page.locator('.more summary').first().click();
  await page.getByRole('button', { name: /undyed Romney: lock/ }).click();
  await settled(page);
  await axe(page, 'locked, with parts and menu');
  await page.goto('/weighouts/1/scale');
  await page.locator('#said').fill('14');
  await page.keyboard.press('Enter');
  await expect(page.locator('.policy')).toHaveCount(3);
  await axe(page, 'weighed too much');
});

test('narrow windows show everything without scrolling sideways', async ({ page }) => {
  test.setTimeout(300_000);
  for (const width of [820, 390]) {
    await page.setViewportSize({ width, height: 800 });
    for (const path of screens.slice(0, -1)) {
      if (path.includes('units=x')) continue;
      await opened(page, path);
      const over = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
      expect(over, `${path} at ${width}`).toBeLessThanOrEqual(0);
    }
  }
});

test('a change answers at once', async ({ page }) => {
  await page.goto('/blends/6');
  const edge = page.getByRole('slider').first();
  await edge.focus();
  for (let i = 0; i < 40; i++) {
    await page.keyboard.press('ArrowRight');
    await settled(page);
  }
  const ms = await page.evaluate(() => performance.getEntriesByName('change').map((m) => m.duration).sort((a, b) => a - b));
  expect(ms.length).toBeGreaterThan(20);
  console.log(`from key to picture, ${ms.length} changes kept on disk: median ${ms[Math.floor(ms.length / 2)].toFixed(1)} ms, largest ${ms.at(-1).toFixed(1)} ms`);
});
