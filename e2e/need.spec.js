// The need: from a pattern to a weigh-out, what is spoken for, and what to buy.
import { test, expect, axe, tabTo, late, settled } from './world.js';

test.use({ verb: 'world', expected: ['status of 422', 'status of 409'] });

const field = (page, name) => page.getByRole('textbox', { name, exact: true });

// making starts one with a blend of lots, and gives its page.
async function making(page, name, lots) {
  const m = await (await page.request.post('/api/v1/makings', { data: { name } })).json();
  const components = lots.map(([lot, parts]) => ({ lot_id: lot, parts }));
  const b = await (await page.request.post(`/api/v1/makings/${m.id}/blends`, { data: { name, total_g: 50, passes: 2, components } })).json();
  return [m.id, b.id];
}

test('a hat of 240 m from its pattern to the weigh-out, by keys alone, answers 400 ms late', async ({ page }) => {
  await page.goto('/');
  const [id] = await making(page, 'Hat', [[15, 3], [2, 2]]);
  await page.goto(`/makings/${id}/need`);
  await tabTo(page, page.getByRole('button', { name: 'yarn', exact: true }));
  await page.keyboard.press('Enter');
  await expect(field(page, 'Length, m')).toBeVisible();
  const { quiet } = await late(page, 400);
  await tabTo(page, field(page, 'Length, m'));
  await page.keyboard.type('240');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab'); // past the lock
  await page.keyboard.type('360');
  await page.keyboard.press('Enter');
  await quiet();
  await expect(page.locator('.answer .big')).toHaveText('77.1 g');
  await expect(field(page, 'Weight of yarn, g')).toHaveValue('66.7');
  await expect(page.locator('main')).toContainText('38.6 + 38.5 g');
  await expect(page.locator('main')).toContainText('531 m, at 780 m in 100 g');
  // Locked, the length stays when the grist changes; the weight follows.
  await tabTo(page, page.getByRole('button', { name: 'Lock Length, m' }));
  await page.keyboard.press('Enter');
  await quiet();
  await tabTo(page, field(page, 'or wraps per inch'));
  await page.keyboard.type('14');
  await page.keyboard.press('Enter');
  await quiet();
  await expect(field(page, 'Grist, m in 100 g')).toHaveValue('294');
  await expect(field(page, 'Length, m')).toHaveValue('240');
  await expect(page.locator('.answer')).toContainText('between 72.7 and 134.9 g');
  await tabTo(page, field(page, 'Grist, m in 100 g'));
  await page.keyboard.press('Control+A');
  await page.keyboard.type('360');
  await page.keyboard.press('Enter');
  await quiet();
  await expect(page.locator('.answer')).not.toContainText('estimated');
  await field(page, 'Margin, %').fill('lots');
  await field(page, 'Margin, %').press('Enter');
  await quiet();
  await expect(page.getByRole('alert').filter({ hasText: 'not a number' })).toBeVisible();
  await expect(field(page, 'Margin, %')).toHaveValue('lots');
  await field(page, 'Margin, %').press('Escape');
  await quiet();
  await axe(page, 'the need of a hat');
  await tabTo(page, page.getByRole('button', { name: 'Give them these weights' }));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Give them these weights' })).toBeHidden();
  await tabTo(page, page.locator('a[href^="/blends/"]', { hasText: /^Hat$/ }).first()); // the blend’s; the making is called so too
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/blends\/\d+$/);
  await expect(page.locator('input[name="total"]')).toHaveValue('77.1');
  await page.getByRole('link', { name: 'Weigh it out' }).click();
  await page.getByRole('button', { name: 'Keep this weigh-out' }).click();
  await expect(page.locator('main')).toContainText('mussel navy Corriedale');
});

test('yards and ounces, and two windows at one need', async ({ page, context }) => {
  await page.goto('/workshop');
  await page.getByLabel('Weights').selectOption('oz');
  await page.getByLabel('Lengths').selectOption('in');
  await page.getByRole('button', { name: 'Save the settings' }).click();
  await page.goto('/makings/3/need');
  await expect(field(page, 'Length, yd')).toHaveValue('3113');
  await expect(field(page, 'Grist, yd in 1 oz')).toHaveValue('68.2');
  const other = await context.newPage();
  await other.goto(page.url());
  await field(page, 'Length, yd').fill('3200');
  await field(page, 'Length, yd').press('Enter');
  await settled(page);
  await field(other, 'Margin, %').fill('20');
  await field(other, 'Margin, %').press('Enter');
  await expect(other.locator('.conflict')).toContainText('changed in another window');
  await expect(field(other, 'Margin, %')).toHaveValue('20');
  await other.getByRole('button', { name: 'Take the other' }).click();
  await expect(field(other, 'Length, yd')).toHaveValue('3200');
});

test('two makings that want one lot are told, and who was first', async ({ page }) => {
  await page.goto('/');
  const [id] = await making(page, 'Hat', [[1, 1]]);
  await page.request.post(`/api/v1/makings/${id}/need`, { data: { way: 'batts', count: 3, each_g: 50 } });
  await page.goto('/shelf?q=grey-blue+Corriedale');
  await expect(page.locator('.wall')).toContainText('spoken for');
  await page.locator('.wall a').first().click();
  await expect(page.locator('.claims li').first()).toContainText('Tide Table throw');
  await expect(page.locator('.claims li').last()).toContainText('Hat wants');
  await expect(page.locator('.claims li').last()).toContainText('too little is left for it');
  await axe(page, 'a lot that two makings want');
  await page.goto(`/makings/${id}`);
  await expect(page.locator('.notice')).toContainText('first Tide Table throw wants');
  await page.goto('/makings/3');
  await page.getByRole('button', { name: 'Put it away' }).click();
  await page.goto('/lots/1');
  await expect(page.locator('.claims li')).toHaveCount(1);
});

test('a shawl of six blends is bought from two sources, with a discount', async ({ page }) => {
  await page.goto('/');
  const need = await (await page.request.get('/api/v1/makings/3/need')).json();
  await page.request.post(`/api/v1/needs/${need.id}/changes`, { data: { version: need.version, verb: 'set', field: 'weight', value: 2600 } });
  await page.goto(`/needs/${need.id}`);
  await page.getByRole('link', { name: 'Put it on a list to buy' }).click();
  for (const [name, postage, pct, from] of [['the fair', '', '5', '50'], ['by post', '4.90', '', '']]) {
    await page.getByLabel('Name of the source').fill(name);
    await page.getByLabel('Postage', { exact: true }).fill(postage);
    await page.getByLabel('A discount, %').first().fill(pct);
    await page.getByLabel('on orders from').first().fill(from);
    await page.getByLabel('on orders from').first().press('Enter');
    await expect(page.getByRole('heading', { name })).toBeVisible();
    await page.goto('/buy?making=3');
  }
  await page.getByRole('button', { name: 'Put together what they lack' }).click();
  await expect(page).toHaveURL(/\/buy\/\d+$/);
  await expect(page.locator('.buytable tbody tr')).not.toHaveCount(0);
  await expect(page.locator('main')).toContainText('none of your sources sells it');
  const lines = await page.locator('#item option').count();
  for (let i = 0; i < lines; i += 1) {
    await page.locator('#item').selectOption({ index: i });
    await page.getByLabel('At', { exact: true }).selectOption({ label: i % 2 ? 'the fair' : 'by post' });
    await page.getByLabel(/^A pack/).fill('100');
    await page.getByLabel('Price of a pack').fill('6.50');
    await page.getByLabel('Price of a pack').press('Enter');
    await expect(page.getByText('none of your sources sells it')).toHaveCount(lines - i - 1);
  }
  await expect(page.locator('main')).toContainText('No way to buy these from your sources costs less');
  await expect(page.locator('.facts')).toContainText('4.90 postage');
  await axe(page, 'a list to buy');
  const line = page.locator('.buytable tbody tr').first();
  await line.locator('[name="grams"]').fill('much');
  await line.locator('[name="dye_lot"]').fill('K 17');
  await line.locator('[name="dye_lot"]').press('Enter');
  await expect(page.getByRole('alert').first()).toContainText('not a number');
  await expect(line.locator('[name="dye_lot"]')).toHaveValue('K 17');
  await line.locator('[name="grams"]').fill('203.4');
  await line.getByRole('button', { name: 'Weigh it in' }).click();
  await line.getByRole('link', { name: 'on the shelf' }).click();
  await expect(page.locator('.answer')).toContainText('203.4');
  await expect(page.locator('main')).toContainText('dye lot K 17');
  for (const width of [820, 390]) {
    await page.setViewportSize({ width, height: 900 });
    for (const path of ['/needs/1', '/buy', '/buy/1', '/sources/1']) {
      await page.goto(path);
      expect(await page.evaluate(() => document.documentElement.scrollWidth), path).toBeLessThanOrEqual(width);
    }
  }
});
