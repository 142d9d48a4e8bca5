// The yarn of all of a making: an order, a bridge, a ply.
import { test, expect, axe, tabTo, settled } from './world.js';

test.use({ verb: 'world', expected: ['status of 422'] });

for (const width of [1280, 390]) {
  test(`a throw spun in order, with a bridge from the yarn, by keys at ${width}`, async ({ page }) => {
    await page.setViewportSize({ width, height: 844 });
    await page.goto('/makings/3/yarn');
    await page.getByRole('link', { name: 'The yarn of all of it' }).click();
    const rows = page.locator('.wholerow > li');
    await expect(rows).toHaveCount(7);
    await page.getByLabel('Ply').selectOption('chain');
    await page.getByRole('button', { name: 'Spin it so' }).click();
    await expect(page.locator('.answerline')).toContainText('6 abrupt steps');
    await tabTo(page, page.getByRole('button', { name: 'Low Water later' }));
    await page.keyboard.press('Enter');
    await expect(rows.first()).toContainText('First Flood');
    await tabTo(page, page.getByRole('button', { name: 'A bridge here' }).first());
    await page.keyboard.press('Enter');
    await expect(rows).toHaveCount(8);
    await expect(rows.nth(1)).toContainText('First Flood to Low Water');
    await expect(page.getByLabel('Ply')).toHaveValue('chain');
    await page.getByRole('button', { name: 'Leave Border out' }).click();
    await expect(rows).toHaveCount(7);
    await page.getByRole('button', { name: 'Spin it too' }).click();
    await expect(rows).toHaveCount(8);
    await page.getByLabel('Stitches in a row').fill('60');
    await page.getByLabel('Rows of a panel').fill('50');
    await page.getByLabel('Panels').fill('3');
    await page.getByLabel('Panels').press('Enter');
    await expect(page.locator('.wholepiece')).toContainText('3 panels of 60 stitches by 50 rows');
    await expect(rows).toHaveCount(8); // the order stays
    await expect(page.locator('.wholepiece img')).toHaveJSProperty('complete', true);
    expect(await page.locator('.wholepiece img').evaluate((img) => img.naturalWidth)).toBeGreaterThan(200);
    await page.getByLabel('Plain strands beside it').fill('mud');
    await page.keyboard.press('Enter');
    await expect(page.locator('.field', { hasText: 'Plain strands' }).getByRole('alert')).toContainText('six');
    await expect(page.getByLabel('Plain strands beside it')).toHaveValue('mud');
    await expect(rows).toHaveCount(8);
    await axe(page, 'the yarn of all of it');
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(width);
    await page.goto('/makings/3/weighlist');
    await expect(page.getByRole('link', { name: 'First Flood to Low Water' })).toBeVisible(); // its place in the weigh list
  });
}

test('a fade of fourteen from a painted top to a chain-plied skein', async ({ page }) => {
  await page.goto('/shelf?q=Estuary');
  await page.getByRole('link', { name: /Estuary/ }).first().click();
  await page.getByLabel('A gradient in').selectOption('Samphire mitts');
  await page.getByRole('button', { name: 'Make the gradient' }).click();
  await page.getByRole('radio', { name: /^Even steps/ }).check();
  await settled(page);
  await page.getByLabel('Bridges', { exact: true }).fill('5');
  await page.getByLabel('Bridges', { exact: true }).press('Enter');
  await expect(page.locator('.ladder li')).toHaveCount(13);
  await page.getByRole('button', { name: /One more bridge/ }).first().click();
  await expect(page.locator('.ladder li')).toHaveCount(14);
  await page.getByRole('button', { name: 'Make blends of the rungs' }).click();
  await expect(page.getByRole('heading', { name: 'Weigh list of Samphire mitts' })).toBeVisible();
  const making = new URL(page.url()).pathname.split('/')[2];
  await page.goto(`/makings/${making}/whole`);
  const rows = page.locator('.wholerow > li');
  for (const name of await rows.locator('a').allTextContents()) {
    if (!/\d+,/.test(name)) await page.getByRole('button', { name: `Leave ${name} out` }).click();
  }
  await expect(rows).toHaveCount(14);
  await page.getByLabel('Ply').selectOption('chain');
  await page.getByRole('button', { name: 'Spin it so' }).click();
  await expect(page.locator('.wholebar rect')).toHaveCount(15); // and what is drawn over them
  const total = Number((await page.locator('.answerline').textContent()).match(/([\d.]+)\u00a0m of yarn/)[1]);
  const parts = (await rows.locator('.sub').allTextContents()).map((t) => t.match(/seen over ([\d.]+)/)).filter(Boolean).map((m) => Number(m[1]));
  expect(Math.abs(parts.reduce((a, b) => a + b) - total)).toBeLessThan(0.06 * 14 + 0.5);
  const abrupt = page.getByRole('button', { name: 'A bridge here' });
  if (await abrupt.count()) { // a fade with more bridges has fewer steps to mend
    await abrupt.first().click();
    await expect(rows).toHaveCount(15);
  }
  await page.goto(`/makings/${making}/skeins/new`);
  await page.getByLabel('Plied').selectOption('chain');
  await page.getByLabel('or its length, m').fill(String(Math.round(total)));
  await page.getByLabel('Weight, g', { exact: true }).fill('96');
  await page.getByRole('button', { name: 'Save the skein' }).click();
  await expect(page.locator('.lines').first()).toContainText('chain-ply');
});

test('the weft of a runner, put in another order by dragging, dyed over', async ({ page }) => {
  await page.goto('/makings/3/whole?ply=single');
  const rows = page.locator('.wholerow > li');
  await expect(rows.first()).toContainText('Low Water');
  await rows.first().dragTo(rows.nth(2));
  await expect(rows.nth(2)).toContainText('Low Water');
  await expect(page.getByLabel('Ply')).toHaveValue('single');
  await page.getByLabel('Worked', { exact: true }).selectOption('weft');
  await page.getByRole('button', { name: 'Show it so' }).click();
  await page.getByLabel('Wide, finished').fill('35');
  await page.getByLabel('Long, finished').fill('140');
  await page.getByRole('button', { name: 'Show it so' }).click();
  await expect(page.locator('.wholepiece')).toContainText('picks');
  await expect(page.locator('.inrows').first()).toContainText('picks, from pick 1');
  const abrupt = async () => Number((await page.locator('.answerline').textContent()).match(/(\d+) abrupt/)?.[1] || 0);
  const before = await abrupt();
  await page.getByLabel('Dyed over').fill('walnut');
  await page.getByLabel('Dyed over').press('Enter');
  await expect(page.locator('.answerline')).toContainText('dyed over');
  expect(await abrupt()).toBeLessThan(before);
  await expect(page.getByLabel('Wide, finished')).toHaveValue('35');
  await expect(rows.nth(2)).toContainText('Low Water');
});

test('a hook of three is chosen on a sample, and how a skein has worn is told of the next', async ({ page }) => {
  await page.goto('/makings/3/yarnsamples/new');
  for (const [i, [tool, stitches, rows]] of [['4 mm hook', '17', '20'], ['5 mm hook', '15', '17'], ['6 mm hook', '13', '15']].entries()) {
    await page.getByLabel('Needle or hook').nth(i).fill(tool);
    await page.getByLabel('Stitches over').nth(i).fill(stitches);
    await page.getByLabel('Rows over').nth(i).fill(rows);
  }
  await page.getByLabel('How it is').nth(1).fill('falls well');
  await page.getByRole('radio', { name: 'this one is liked' }).nth(1).check();
  await page.getByLabel('Bumps in').fill('5');
  await axe(page, 'a sample of three hooks');
  await page.getByRole('button', { name: 'Save the sample' }).click();
  await expect(page.locator('.samplecard')).toContainText('falls well');
  await page.goto('/layups/2/yarn');
  await expect(page.getByText('as Sample 1 showed')).toBeVisible();
  await expect(page.getByText('empty: 15, as on Sample 1')).toBeVisible();
  await page.goto('/makings/3/skeins/new');
  await page.getByLabel('Weight, g', { exact: true }).fill('40');
  await page.getByRole('button', { name: 'Save the skein' }).click();
  await page.getByRole('link', { name: 'Skein 1' }).click();
  await page.getByLabel('It pills').selectOption('much');
  await axe(page, 'a skein that has worn');
  await page.getByRole('button', { name: 'Save the skein' }).click();
  await expect(page.getByText('much: pills')).toBeVisible();
  await page.goto('/layups/2/yarn');
  await expect(page.getByText('much: pills')).toBeVisible();
});

test('labels are as large on paper as they say, and lay-ups of all blends fit', async ({ page }) => {
  await page.goto('/blends/6/labels?count=60&numbered=yes&style=for-sale');
  await axe(page, 'labels');
  const pdf = (await page.pdf({ preferCSSPageSize: true })).toString('latin1');
  expect(pdf.match(/\/Count (\d+)/)[1]).toBe('3');
  const [, w, h] = pdf.match(/\/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/).map(Number);
  expect(Math.abs((w * 25.4) / 72 - 210)).toBeLessThan(0.2);
  expect(Math.abs((h * 25.4) / 72 - 297)).toBeLessThan(0.2);
  await page.emulateMedia({ media: 'print' });
  const box = await page.locator('.labeledge').first().boundingBox();
  expect(Math.abs((box.width * 25.4) / 96 - 64)).toBeLessThan(0.2);
  expect(Math.abs((box.height * 25.4) / 96 - 34)).toBeLessThan(0.2);
  await page.emulateMedia({ media: null });
  for (const width of [1280, 820, 390]) {
    await page.setViewportSize({ width, height: 844 });
    for (const path of ['/makings/3/layup', '/blends/6/labels']) {
      await page.goto(path);
      expect(await page.evaluate(() => document.documentElement.scrollWidth), path).toBe(width);
    }
  }
  await page.goto('/makings/3/layup');
  await axe(page, 'all blends laid up');
});
