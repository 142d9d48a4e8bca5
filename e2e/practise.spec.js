// The trainer: a pupil of twelve turns, by keys; an eye that sees hues differently.
import { test, expect, axe, opened, tabTo } from './world.js';

test.use({ verb: 'world', expected: ['status of 422'] });

// answer says something to the exercise that stands there, by keys.
async function answer(page) {
  for (const group of await page.locator('.choices').all()) {
    await tabTo(page, group.getByRole('radio').first());
    await page.keyboard.press('ArrowDown');
  }
  for (const menu of await page.locator('.layerpile select').all()) {
    await tabTo(page, menu);
    await page.keyboard.press('ArrowDown');
  }
  for (const slider of (await page.getByRole('slider').all()).slice(0, 2)) {
    await tabTo(page, slider);
    for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight');
    await expect(slider).toHaveValue('5');
  }
  const grams = page.getByLabel('It is, g');
  if (await grams.count()) {
    await tabTo(page, grams);
    await page.keyboard.type('100');
  }
  await tabTo(page, page.getByRole('button', { name: 'That is my answer' }));
  await page.keyboard.press('Enter');
}

test('a pupil of twelve turns, by keys, on a phone', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await opened(page, '/shelf');
  await page.getByRole('link', { name: 'Practise' }).press('Enter');
  await axe(page, 'where one stands');
  const seen = new Set();
  for (let turn = 0; turn < 12; turn++) {
    await tabTo(page, page.getByRole('link', { name: 'Next exercise' }));
    await page.keyboard.press('Enter');
    await expect(page).toHaveURL(/\/practise\/\w+\?seed=\d+&level=\d/);
    const name = await page.getByRole('heading', { level: 1 }).innerText();
    if (!seen.has(name)) {
      await page.getByRole('button', { name: 'That is my answer' }).press('Enter'); // with nothing said
      await expect(page.getByRole('alert').first()).toBeVisible();
      await axe(page, name);
    }
    expect(await page.evaluate(() => document.documentElement.scrollWidth), name).toBe(390);
    await answer(page);
    await expect(page.getByText(/\d+ of 100/)).toBeVisible();
    if (!seen.has(name)) await axe(page, `${name}, answered`);
    seen.add(name);
    await page.goto('/practise');
  }
  expect(seen.size).toBe(9);
  await expect(page.getByRole('img', { name: /^The last \d/ })).toHaveCount(9);
  await axe(page, 'where one stands after twelve');
});

test('what is in a batt is drawn as the parts are set; an answer can be forgotten, and had back', async ({ page }) => {
  await opened(page, '/practise');
  await page.getByLabel('lightness alone').check();
  await page.getByRole('button', { name: 'Train that' }).click();
  await page.getByRole('link', { name: 'What is in it?' }).click();
  await expect(page).toHaveURL(/by=lightness/);
  await expect(page.getByText('hangs on hue')).toHaveCount(0);
  await page.getByRole('slider').first().fill('8');
  const yours = page.getByAltText('A batt of the parts as they stand');
  await expect(yours).toBeVisible();
  await expect.poll(() => yours.evaluate((i) => i.complete && i.naturalWidth)).toBe(640);
  await page.getByRole('button', { name: 'That is my answer' }).dblclick();
  await expect(page.getByAltText('A batt of what you said')).toBeVisible();
  await axe(page, 'what was said to a batt, in full width');
  await page.getByRole('button', { name: 'Forget this one' }).click();
  await expect(page.getByText('not tried yet')).toHaveCount(9);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('not tried yet')).toHaveCount(8);
});

test('a sheet to print: exercises, and on a page of their own the answers', async ({ page }) => {
  await opened(page, '/practise');
  await page.getByRole('link', { name: 'A sheet to print' }).press('Enter');
  await page.getByLabel('How many').fill('40');
  await page.getByRole('button', { name: 'Make another sheet' }).press('Enter');
  await expect(page.getByRole('alert')).toContainText('1 to 30');
  await expect(page.getByLabel('How many')).toHaveValue('40');
  await page.getByLabel('How many').fill('6');
  await page.getByRole('button', { name: 'Make another sheet' }).press('Enter');
  await expect(page.locator('.sheettask')).toHaveCount(6);
  await axe(page, 'a sheet of exercises');
  for (const width of [820, 390]) {
    await page.setViewportSize({ width, height: 844 });
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(width);
  }
  await page.emulateMedia({ media: 'print' });
  expect(await page.locator('.sheetanswers').evaluate((e) => getComputedStyle(e).breakBefore)).toBe('page');
});
