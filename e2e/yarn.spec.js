// Yarn: what a batt becomes, samples and skeins.
import { test, expect, axe, tabTo, late, lay, settled } from './world.js';

test.use({ verb: 'world', expected: ['status of 422', 'status of 409'] });

const field = (page, name) => page.getByRole('textbox', { name, exact: true });
const way = (page, group, name) => page.getByRole('radiogroup', { name: group }).getByRole('radio', { name, exact: true });

// making starts one with a blend of lots, and gives its page.
async function making(page, name, lots) {
  const m = await (await page.request.post('/api/v1/makings', { data: { name } })).json();
  const components = lots.map(([lot, parts]) => ({ lot_id: lot, parts }));
  const b = await (await page.request.post(`/api/v1/makings/${m.id}/blends`, { data: { name, total_g: 50, passes: 1, components } })).json();
  return [m.id, b.id];
}

// drawn waits until every picture that is shown has arrived.
async function drawn(page) {
  await expect.poll(() => page.evaluate(() => [...document.images].filter((i) => i.loading !== 'lazy' && i.getClientRects().length && !(i.complete && i.naturalWidth)).length))
    .toBe(0);
}

test('a hat of 240 m from its pattern to a skein with metres to spare', async ({ page }) => {
  test.slow();
  await page.goto('/');
  const [id, blend] = await making(page, 'Hat', [[15, 3], [2, 2]]);
  await page.goto(`/makings/${id}/need`);
  await page.getByRole('button', { name: 'yarn', exact: true }).click();
  await field(page, 'Length, m').fill('240');
  await field(page, 'or wraps per inch').fill('14');
  await field(page, 'or wraps per inch').press('Enter');
  await expect(page.locator('.answer')).toContainText('estimated from wraps');
  // A sample is spun and measured: 20 m that weigh 5.6 g washed.
  await page.goto(`/makings/${id}/yarn`);
  await expect(page.locator('main')).toContainText('Nothing is spun yet of 240 m needed.');
  await page.getByRole('link', { name: 'Note a sample' }).click();
  await page.getByLabel('Plied').selectOption('two');
  await field(page, 'Length, washed, m').fill('20');
  await field(page, 'Weight, washed, g').fill('five');
  await field(page, 'Needle or hook').first().fill('needle 4 mm');
  await page.getByRole('button', { name: 'Save the sample' }).click();
  await expect(page.getByRole('alert')).toContainText('not a number');
  await expect(field(page, 'Needle or hook').first()).toHaveValue('needle 4 mm');
  await axe(page, 'a sample with a wrong weight');
  await field(page, 'Weight, washed, g').fill('5.6');
  await page.getByRole('button', { name: 'Save the sample' }).click();
  await expect(page.locator('.samplecard')).toContainText('357 m in 100 g');
  await page.goto(`/makings/${id}/need`);
  await expect(page.locator('main')).toContainText('measured on Sample 1');
  await expect(page.locator('.answer')).not.toContainText('estimated');
  await expect(field(page, 'Weight of yarn, g')).toHaveValue('67.2');
  await page.getByRole('button', { name: 'Give them these weights' }).click();
  // As the need has it, the batt is laid and looked at as yarn.
  await lay(page, blend, { builder: 'Lanes' });
  await page.getByRole('link', { name: 'Yarn', exact: true }).click();
  await expect(page.locator('h1')).toContainText('as yarn');
  await expect(page.locator('main')).toContainText('240 m are needed');
  await drawn(page);
  // The skein: 175 turns of 150 cm, and 74.2 g.
  await page.getByRole('link', { name: 'Samples and skeins' }).click();
  await page.getByRole('link', { name: 'Note a skein' }).click();
  await field(page, 'Turns on the reel').fill('175');
  await field(page, 'Once round it, cm').fill('150.3');
  await field(page, 'Weight, g').fill('74.2');
  await field(page, 'Fibre that went in, g').fill('78');
  await field(page, 'Weight before washing, g').fill('75.5');
  await page.getByRole('button', { name: 'Save the skein' }).click();
  await expect(page.locator('.answerline')).toHaveText('Enough: 263 m of 240 m needed, with 23.0 m to spare.');
  await axe(page, 'a skein against its need');
  await page.goto('/notebook?sort=skein');
  await expect(page.locator('.notes')).toContainText('Skein 1');
  // What it showed counts from now on; in the bin it does not, and undo brings it back.
  await page.goto('/makings/3/need');
  await expect(page.locator('main')).toContainText('as your skein or sample showed');
  await page.goto(`/makings/${id}/yarn`);
  await page.getByRole('button', { name: 'To the bin' }).first().click();
  await expect(page.locator('.answerline')).toContainText('Nothing is spun yet');
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.goto(`/makings/${id}/yarn`);
  await expect(page.locator('.answerline')).toContainText('23.0 m to spare');
});

test('one batt is spun four ways, a gradient chain-plied, by keys alone, answers 400 ms late', async ({ page }) => {
  test.slow();
  await page.goto('/layups/3/yarn');
  await expect(page.locator('.fourways li')).toHaveCount(4);
  const took = await page.evaluate(() => performance.getEntriesByType('resource').filter((e) => e.name.includes('/yarn')).reduce((n, e) => Math.max(n, e.responseEnd), 0));
  await drawn(page);
  console.log(`four ways and their pictures: ${Math.round(took)} ms after the page was asked for`);
  await axe(page, 'a batt as yarn');
  const { quiet } = await late(page, 400);
  await expect(page.locator('.pattern')).toHaveText('stripes'); // seven strips, chain-plied
  await expect(page.locator('.spunparts li')).toHaveCount(7);
  // Whole from the side it is one long gradient, chain-plied too.
  const whole = page.getByRole('button', { name: 'Spin it so: Whole from the side, a single' });
  await tabTo(page, whole, 200);
  await page.keyboard.press('Enter');
  await quiet();
  await expect(page.locator('.pattern')).toHaveText('one long gradient');
  await expect(way(page, 'Divided into', 'whole')).toBeChecked();
  await tabTo(page, way(page, 'Plied', 'single'), 200);
  await page.keyboard.press('ArrowLeft'); // round to the last
  await quiet();
  await expect(way(page, 'Plied', 'chain-ply')).toBeChecked();
  await expect(page.locator('.pattern')).toHaveText('one long gradient');
  const before = await page.locator('#strandhead').innerText();
  await tabTo(page, page.getByLabel('Where to look at the yarn'), 200);
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight');
  await expect(page.locator('#strandhead')).not.toHaveText(before);
  // A wrong number stays, with what is wrong; a right one is taken, and undone.
  await tabTo(page, field(page, 'Singles, m in 100 g'), 200);
  await page.keyboard.press('Control+A');
  await page.keyboard.type('3');
  await page.keyboard.press('Enter');
  await quiet();
  await expect(page.getByRole('alert').filter({ hasText: 'from 20 to 20,000' })).toBeVisible();
  await expect(field(page, 'Singles, m in 100 g')).toHaveValue('3');
  await page.keyboard.press('Control+A');
  await page.keyboard.type('800');
  await page.keyboard.press('Tab');
  await page.keyboard.type('8');
  await page.keyboard.press('Enter');
  await quiet();
  await settled(page);
  await expect(field(page, 'Singles, m in 100 g')).toHaveValue('800');
  await page.reload();
  await expect(field(page, 'Singles, m in 100 g')).toHaveValue('800');
  await expect(way(page, 'Plied', 'chain-ply')).toBeChecked();
  await drawn(page);
});

test('rolags of a board as a self-striping yarn; knitted, woven, felted; another batt beside it', async ({ page }) => {
  await page.goto('/layups/4/yarn');
  await expect(way(page, 'Divided into', 'rolags')).toBeChecked();
  await way(page, 'Plied', 'chain-ply').check({ force: true });
  await settled(page);
  await field(page, 'How many rolags').fill('6'); // they are rolled on the lay-up
  await field(page, 'How many rolags').press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'The lay-up rolls it into 3: change it there.' })).toBeVisible();
  await field(page, 'How many rolags').press('Escape');
  await expect(page.locator('.spunparts li')).toHaveCount(3);
  await expect(page.locator('main')).toContainText('tightly between two rods it is a puni');
  for (const cloth of ['woven', 'as felt', 'knitted']) {
    await way(page, 'Shown', cloth).check({ force: true });
    await settled(page);
    await drawn(page);
  }
  await way(page, 'Plied', 'two-ply').check({ force: true });
  await settled(page);
  await way(page, 'Plies of', 'two, one turned round').check({ force: true });
  await settled(page);
  await expect(page.locator('main')).toContainText('of two-ply at');
  await page.goto('/layups/3/yarn');
  await page.getByLabel('Which batt').selectOption({ label: 'Slack, four batts' });
  await expect(page.locator('main')).toContainText('Two yarns: nobody takes one for the other.');
  await page.getByRole('button', { name: /Spin it so: Two halves/ }).click();
  await settled(page);
  await expect(page.locator('main')).toContainText('Place by place they differ by');
  await drawn(page);
});

test('two windows at one yarn, and yards', async ({ page, context }) => {
  await page.goto('/workshop');
  await page.getByLabel('Lengths').selectOption('in');
  await page.getByRole('button', { name: 'Save the settings' }).click();
  await page.goto('/layups/3/yarn');
  const other = await context.newPage();
  await other.goto('/layups/3/yarn');
  await way(page, 'Plied', 'single').check({ force: true });
  await settled(page);
  await way(other, 'Spun', 'back and forth').check({ force: true });
  await expect(other.locator('.conflict')).toContainText('changed in another window');
  await other.getByRole('button', { name: 'Take the other' }).click();
  await expect(way(other, 'Plied', 'single')).toBeChecked();
  await expect(other.locator('main')).toContainText('yd of single at');
  await expect(other.locator('.strandpic')).toContainText('1 in');
});

for (const [width, height] of [[820, 1000], [390, 844]]) {
  test(`a yarn and its skeins fit a window ${width} wide`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    for (const path of ['/layups/3/yarn', '/makings/2/yarn', '/makings/2/skeins/new']) {
      await page.goto(path);
      await drawn(page);
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
      await axe(page, `${path} at ${width}`);
    }
  });
}

test('crochet with another hook, a throw of a size, twist at a wheel: by keys at 390, answers 400 ms late', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/layups/1/yarn');
  const { quiet } = await late(page, 400);
  await expect(page.locator('.facts', { hasText: 'Twist of the singles' })).toContainText('turns in 10');
  await page.getByRole('radio', { name: 'single crochet' }).check({ force: true });
  await quiet();
  await expect(page.getByRole('textbox', { name: 'Stitches in a row' })).toHaveValue('17'); // 10 cm of it
  const hook = page.getByRole('textbox', { name: /^Hook/ });
  await hook.fill('90');
  await hook.press('Enter');
  await expect(page.locator('.wrong', { hasText: 'A hook is' })).toBeVisible();
  await expect(hook).toHaveValue('90');
  await hook.fill('5');
  await hook.press('Tab');
  for (const [name, value] of [[/^Wide/, '40'], [/^Long/, '60'], [/^Stitches on/, '15'], [/^Rows on/, '18']]) { // one after the other, before the answers
    await page.getByRole('textbox', { name }).fill(value);
    await page.getByRole('textbox', { name }).press('Tab');
  }
  await quiet();
  await settled(page);
  await expect(page.getByText(/^60 stitches by 108 rows; .* of yarn in a stitch/)).toBeVisible();
  await page.getByRole('textbox', { name: /^Ratio/ }).fill('8');
  await page.getByRole('textbox', { name: /^Ratio/ }).press('Tab');
  await page.getByRole('textbox', { name: /^Drawn at a time/ }).fill('60');
  await page.getByRole('textbox', { name: /^Drawn at a time/ }).press('Enter');
  await quiet();
  await settled(page);
  await expect(page.locator('.facts', { hasText: 'At the wheel' })).toContainText(/\d+ treadles for each 60/);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
  await axe(page, 'crochet, twist and a piece');
  await page.getByRole('radio', { name: 'woven' }).check({ force: true });
  await quiet();
  await settled(page);
  await expect(page.getByText(/ends by .* picks; .* of it warp/)).toBeVisible();
});

test('a hat from an old pattern: what it asks for becomes what is needed, by keys', async ({ page }) => {
  const [id] = await making(page, 'Hat of an old pattern', [[1, 1], [2, 1]]);
  await page.goto(`/makings/${id}/need`);
  await tabTo(page, page.getByRole('link', { name: 'In place of a pattern’s yarn' }));
  await page.keyboard.press('Enter');
  await page.getByLabel(/^A ball is long/).fill('160');
  await page.getByLabel(/^and weighs/).fill('0');
  await page.getByLabel('Balls').fill('1');
  await page.getByLabel('Balls').press('Enter');
  await expect(page.locator('.wrong').first()).toContainText('above');
  await expect(page.getByLabel(/^A ball is long/)).toHaveValue('160');
  await page.getByLabel(/^and weighs/).fill('50');
  await page.getByLabel('Its plies').fill('4');
  await page.getByLabel(/^Wraps per inch/).fill('16');
  await page.getByLabel(/^Stitches on/).fill('28');
  await page.getByLabel(/^Rows on/).fill('36');
  await page.getByRole('button', { name: 'What do I spin?' }).press('Enter');
  await expect(page.locator('.answer')).toContainText('in three plies');
  await expect(page.getByRole('row', { name: /short, backward rolags 1\d/ })).toBeVisible();
  await axe(page, 'in place of a yarn');
  await page.getByRole('button', { name: /^Take it as what/ }).dblclick(); // fast hands
  await expect(page.getByRole('textbox', { name: /^Length/ })).toHaveValue('160');
  await expect(page.getByRole('textbox', { name: /^Grist/ })).toHaveValue('320');
  await expect(page.getByRole('textbox', { name: 'Plies' })).toHaveValue('3');
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`/makings/${id}/instead?ball_m=160&ball_g=50&balls=7`);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
});
