import { test, expect, axe } from './world.js';

test.use({ verb: 'world', expected: ['status of 422'] });

const say = async (page, text) => {
  await page.locator('#said').fill(text);
  await page.keyboard.press('Enter');
};

test('too little: it is booked, stays open, and the rest is added', async ({ page }) => {
  await page.goto('/weighouts/1/scale');
  await expect(page.locator('.huge')).toHaveText('11.0');
  await say(page, '10');
  await expect(page.locator('.verdictline')).toContainText('1.0 g less than wanted');
  await expect(page.locator('.policy').first()).toContainText('Book it, add the rest');
  await page.locator('.policy').first().click();
  await expect(page.locator('.wanted')).toContainText('add');
  await expect(page.locator('.huge')).toHaveText('1.0');
  await expect(page.locator('.bowl .sub').last()).toHaveText('7 of 20 weighed');
  await say(page, '1.0');
  await expect(page.locator('.bowl .sub').last()).toHaveText('8 of 20 weighed');
  await page.goto('/lots/3');
  await expect(page.locator('.answer')).toContainText('74 g on the shelf');
  await expect(page.locator('table')).toContainText('−10 g');
});

test('too much: the total stays and the rest gives way; or it is put back', async ({ page }) => {
  await page.goto('/weighouts/1/scale');
  await say(page, '14.2');
  await expect(page.locator('.policy')).toHaveCount(3);
  await axe(page, 'choice at the scale');
  await page.keyboard.press('Escape');
  await expect(page.locator('.policy')).toHaveCount(0);
  await expect(page.locator('#said')).toBeFocused();
  await expect(page.locator('#said')).toHaveValue('14.2');
  await page.keyboard.press('Enter');
  await expect(page.locator('.policy').nth(1)).toContainText('62.0 g');
  await page.keyboard.press('t');
  await expect(page.locator('.saved')).toContainText('Kept: 14.2 g of tussah');
  // 2.9 g too much leave 11.1 g for flax and teal instead of 14.3 g.
  await expect(page.locator('.huge')).toHaveText('7.8');
  await expect(page.locator('.sub').filter({ hasText: 'planned' })).toContainText('planned 10.1');
});

// The space bar goes on with full hands, but not in the middle of what is typed.
test('a weight typed with its unit is not booked at the space', async ({ page }) => {
  await page.goto('/weighouts/1/scale');
  await page.locator('#said').pressSequentially('11 g', { delay: 60 });
  await expect(page.locator('#said')).toHaveValue('11 g');
  await expect(page.locator('.bowl .sub').last()).toHaveText('7 of 20 weighed');
  await page.goto('/stock');
  await page.locator('#said').pressSequentially('11 g', { delay: 60 });
  await expect(page.locator('#said')).toHaveValue('11 g');
});

test('a letter chooses before the focus has come to the choice', async ({ page }) => {
  await page.goto('/weighouts/1/scale');
  await say(page, '14.2');
  await expect(page.locator('.policy')).toHaveCount(3);
  await page.locator('#said').focus();
  await expect(page.locator('#said')).toHaveValue('14.2');
  await page.keyboard.press('t');
  await expect(page.locator('.saved')).toContainText('Kept: 14.2 g of tussah');
  await expect(page.locator('#said')).toHaveValue('');
});

test('wrong readings are told at the field and kept in it', async ({ page }) => {
  await page.goto('/weighouts/1/scale');
  for (const [text, says] of [['abc', 'not a number'], ['', 'Enter a weight'], ['0', 'above 0'], ['-2', '0 or more'], ['1e309', 'not a number'], ['9000', 'on the shelf']]) {
    await say(page, text);
    if (text === '9000') await page.locator('.policy').last().click();
    await expect(page.locator('#saidwrong')).toContainText(says);
    await expect(page.locator('#said')).toHaveValue(text);
  }
  await page.reload();
  await expect(page.locator('.bowl .sub').last()).toHaveText('7 of 20 weighed');
});

test('the printed table has boxes to tick and nothing of the frame', async ({ page }) => {
  await page.goto('/weighouts/1');
  await page.emulateMedia({ media: 'print' });
  await expect(page.locator('.top')).toBeHidden();
  await expect(page.locator('.strand')).toBeHidden();
  await expect(page.locator('.printonly')).toBeVisible();
  const mark = await page.locator('.grid .cell').last().evaluate((el) => getComputedStyle(el, '::after').content);
  expect(mark).toContain('☐');
  const ink = await page.evaluate(() => getComputedStyle(document.body).color);
  expect(ink).toBe('rgb(0, 0, 0)');
});
