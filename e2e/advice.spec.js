// The second look: a plan that will go wrong, mended press by press.
import { test, expect, axe, tabTo, late } from './world.js';

test.use({ verb: 'demo', expected: ['status of 422'] });

// plan starts a making whose blend is mostly slippery, with too much glitter and too many dots.
async function plan(page) {
  const m = await (await page.request.post('/api/v1/makings', { data: { name: 'First try' } })).json();
  const bought = (name, kind, parts) => ({ lot_id: null, name, kind, preparation: 'carded_sliver', hex: '#8899aa', parts });
  const components = [bought('shine', 'viscose', 70), bought('wool', 'corriedale', 15), bought('dots', 'neps_wool', 10), bought('glitter', 'film_metallised', 5)];
  const b = await (await page.request.post(`/api/v1/makings/${m.id}/blends`, { data: { name: 'Bad plan', total_g: 150, passes: 5, components } })).json();
  await page.request.post(`/api/v1/makings/${m.id}/need`, { data: { way: 'batts', count: 3, each_g: 50, uses: ['socks'], look: 'even' } });
  return b.id;
}

const mends = (page) => page.locator('.second .mend:visible .btn');

test('a bad plan becomes a good one by mends alone, by keys, answers 400 ms late', async ({ page }) => {
  test.slow();
  await page.goto('/makings');
  const id = await plan(page);
  await page.goto(`/blends/${id}`);
  await expect(page.locator('.finding').first()).toBeVisible();
  await expect(page.locator('.second')).toContainText('slippery');
  await axe(page, 'the second look at a bad plan');
  const { quiet } = await late(page, 400);
  const before = await page.locator('.second > p').first().innerText();
  for (let i = 0; i < 8 && await mends(page).count() > 0; i++) {
    const said = await mends(page).first().innerText();
    await tabTo(page, mends(page).first(), 200);
    await page.keyboard.press('Enter');
    await quiet();
    await expect(page.locator('.saved').first()).toHaveText('Saved');
    await expect(mends(page).filter({ hasText: said })).toHaveCount(0);
  }
  await expect(mends(page)).toHaveCount(0);
  await expect(page.locator('.second > p').first()).not.toHaveText(before);
  await expect(page.locator('.second')).not.toContainText('Stop:');
  await expect(page.locator('.second')).not.toContainText('slippery');
  await expect(page.locator('.goes-in .numfield[aria-label^="shine"]').first()).not.toHaveValue('70');
  await axe(page, 'after its mends');
  // One press back brings the last finding again.
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await quiet();
  await expect(mends(page)).not.toHaveCount(0);
});

test('a rule is silenced with a reason, and speaks again; why it is one', async ({ page }) => {
  await page.goto('/blends/6');
  const slippery = page.locator('.finding', { hasText: 'of it is slippery' });
  await slippery.locator('summary').click();
  await expect(slippery).toContainText('One school stops at');
  await slippery.getByRole('textbox').fill('it is to drape');
  await slippery.getByRole('button', { name: 'Be quiet' }).click();
  await expect(page.locator('.second')).toContainText('silenced');
  await expect(slippery).toHaveCount(0);
  await page.getByRole('link', { name: 'All that it looks at' }).click();
  await expect(page.locator('main')).toContainText('in Tide Table throw: it is to drape');
  await axe(page, 'all rules');
  await page.getByRole('button', { name: 'Speak of it again' }).click();
  await page.goto('/blends/6');
  await expect(slippery).toBeVisible();
  await slippery.locator('summary').click();
  await slippery.getByRole('link', { name: 'More of it' }).click();
  await expect(page.locator('h1')).toHaveText('Slippery share high');
  await axe(page, 'why it is a rule');
  for (const width of [820, 390]) {
    await page.setViewportSize({ width, height: 844 });
    for (const path of ['/blends/6', '/advice', '/advice/R08']) {
      await page.goto(path);
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
    }
  }
});
