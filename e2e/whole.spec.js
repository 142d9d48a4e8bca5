// The yarn of all of a making: an order, a bridge, a ply.
import { test, expect, axe, tabTo } from './world.js';

test.use({ verb: 'demo', expected: ['status of 422'] });

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
