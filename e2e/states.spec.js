import { test, expect, axe, opened, settled } from './world.js';

test.use({ verb: 'demo' });

const screens = [
  '/shelf', '/shelf?view=table', '/shelf?q=nothing+like+it', '/lots/29', '/lots/new', '/lots/1/edit', '/shelf/import', '/makings', '/makings?show=put-away',
  '/makings/3', '/makings/3/weighlist', '/blends/6', '/blends/6/weigh', '/blends/6/weigh?units=x&finished_g=-1&passes=2&step_g=0.1', '/weighouts/1', '/weighouts/1/scale',
  '/layups/3', '/layups/4', '/layups/1/bench', '/layups/1/card', '/layups/4/card', '/blends/9/layup', '/gradients/1', '/scraps', '/scraps/1', '/photos', '/photos/1', '/calibration', '/calibration?sample=2', '/lots/12', '/workshop', '/equipment/1', '/equipment/1/book', '/blends/6/weigh?sample=1', '/needs/1', '/makings/2/need', '/buy', '/buy?making=3', '/equipment/new?preset=board_small', '/kinds', '/kinds/new?like=romney', '/runs/1', '/runs/1/record', '/runs/2', '/lots/34', '/lots/33', '/notebook', '/day', '/notebook/swatches', '/notebook/beside?with=carding-1&with=carding-1', '/runs/1/card', '/layups/3/yarn', '/makings/2/yarn', '/makings/2/skeins/new', '/yarnsamples/1', '/yarnsamples/1/card', '/bin', '/api', '/devices', '/shelf/several', '/photos/1/tufts', '/makings/3/whole', '/nothing-here',
  '/colours?lot=1&scheme=split&pick=1,3', '/colours?lot=1&scheme=greys', '/blends/6/range', '/blends/6/range?lighter_steps=99', '/makings/3/family',
  '/makings/3/family?grey=1', '/makings/2/instead', '/makings/2/instead?ball_m=160&ball_g=50&balls=7&wraps=16&stitches=28&rows=36', '/tools',
];

// Each screen is opened once: looked over by axe on its light ground, for contrast on the others,
// which only change colours, and made narrow.
const parts = 4;
for (let part = 0; part < parts; part++) {
  test(`every screen, part ${part + 1} of ${parts}: axe on every ground, and nothing to scroll sideways`, async ({ page }) => {
    test.setTimeout(300_000);
    await page.emulateMedia({ reducedMotion: 'reduce' }); // else buttons fade from one ground to the other
    await page.goto('/makings');
    await page.getByRole('button', { name: 'light ground' }).click();
    await expect(page.locator('html')).toHaveAttribute('data-ground', 'light');
    for (const path of screens.filter((_, i) => i % parts === part)) {
      const shown = await page.request.get(path);
      await page.setContent('<p>between</p>');
      const refused = shown.status() >= 400;
      if (refused) await page.route('**' + path, (r) => r.fulfill({ response: shown, status: 200 }));
      await opened(page, path);
      await axe(page, path);
      for (const ground of ['mid', 'dark']) {
        await page.evaluate((to) => { document.documentElement.dataset.ground = to; }, ground);
        await axe(page, `${path} on ${ground} ground`, ['color-contrast']);
      }
      for (const width of refused ? [] : [820, 390]) {
        await page.setViewportSize({ width, height: 800 });
        const over = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
        expect(over, `${path} at ${width}`).toBeLessThanOrEqual(0);
      }
      await page.setViewportSize({ width: 1280, height: 800 });
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
