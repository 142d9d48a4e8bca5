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
