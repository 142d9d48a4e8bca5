import { test, expect, settled } from './world.js';

test.use({ verb: 'demo', expected: ['status of 409', 'status of 422', 'status of 423', 'ERR_FAILED'] });

test('two windows on one blend: the second is told, nothing is lost', async ({ page, context }) => {
  const other = await context.newPage();
  await page.goto('/blends/1');
  await other.goto('/blends/1');
  const field = (p) => p.getByLabel(/Mudflat fleece, dark side in percent/);
  await field(page).fill('30');
  await field(page).press('Enter');
  await settled(page);
  await field(other).fill('40');
  await field(other).press('Enter');
  await expect(other.getByRole('alert').filter({ hasText: 'another window' })).toBeVisible();
  await expect(field(other)).toHaveValue('40');
  // She goes on working before she chooses.
  await other.locator('#total').fill('250');
  await other.locator('#total').press('Enter');
  await expect(other.locator('#total')).toHaveValue('250');
  await other.getByRole('button', { name: 'Keep mine' }).click();
  await settled(other);
  await page.reload();
  await expect(field(page)).toHaveValue('40');
  await expect(page.locator('#total')).toHaveValue('250');
});

test('two windows at one scale: the second looks on, is told who weighs, and takes over', async ({ page, context }) => {
  const other = await context.newPage();
  await page.goto('/weighouts/1/scale');
  await expect(page.locator('.livereading')).toContainText('Put it on');
  await other.goto('/weighouts/1/scale');
  await expect(other.locator('.held')).toContainText('Another window weighs here');
  await expect(other.locator('#said')).toBeHidden();
  await page.locator('#said').fill(await page.locator('.huge').innerText());
  await page.keyboard.press('Enter');
  await expect(page.locator('.saved')).toContainText('Kept');
  await expect(other.locator('.bowl .sub').last()).toHaveText('8 of 20 weighed');
  await expect(other.locator('.now')).toHaveText(await page.locator('.now').innerText());
  await page.locator('#said').fill('10.3');
  await other.getByRole('button', { name: 'Weigh here instead' }).click();
  await expect(page.locator('.held')).toBeVisible();
  await other.locator('#said').fill(await other.locator('.huge').innerText());
  await other.keyboard.press('Enter');
  await expect(other.locator('.saved')).toContainText('Kept');
  await expect(page.locator('.bowl .sub').last()).toHaveText('9 of 20 weighed');
  await page.getByRole('button', { name: 'Weigh here instead' }).click();
  await expect(other.locator('.held')).toBeVisible();
  await page.locator('.bowl li button').nth(3).dispatchEvent('click');
  await other.close();
  await expect(page.locator('#said')).toBeVisible();
});

// A window that heard nothing yet sends what was typed in it; it is refused with who
// weighs, and stays typed.
test('what is typed in a window that does not weigh is kept', async ({ page, context }) => {
  const other = await context.newPage();
  await page.goto('/weighouts/1/scale');
  await expect(page.locator('.livereading')).toContainText('Put it on');
  await other.route('**/live*', (r) => r.abort());
  await other.goto('/weighouts/1/scale');
  await other.locator('#said').fill('11.2');
  await other.keyboard.press('Enter');
  await expect(other.getByRole('alert').filter({ hasText: 'weighs here' })).toBeVisible();
  await expect(other.locator('#said')).toHaveValue('11.2');
});

test('a reload in the middle of weighing goes on where it stopped', async ({ page }) => {
  await page.goto('/weighouts/1/scale');
  await expect(page.locator('.bowl .sub').last()).toHaveText('7 of 20 weighed');
  const name = await page.locator('.now').innerText();
  await page.locator('#said').fill(await page.locator('.huge').innerText());
  await page.keyboard.press('Enter');
  await expect(page.locator('.bowl .sub').last()).toHaveText('8 of 20 weighed');
  await page.reload();
  await expect(page.locator('.bowl .sub').last()).toHaveText('8 of 20 weighed');
  await expect(page.locator('.now')).not.toHaveText(name);
  await page.keyboard.press('Control+z');
  await expect(page.locator('.bowl .sub').last()).toHaveText('7 of 20 weighed');
  await expect(page.locator('.now')).toHaveText(name);
});

test('a lost connection is said, and the change is kept when it is back', async ({ page }) => {
  await page.goto('/blends/1');
  await page.route('**/change', (r) => r.abort());
  await page.locator('#total').fill('222');
  await page.locator('#total').press('Enter');
  await expect(page.locator('.saved')).toContainText('No connection');
  await page.unroute('**/change');
  await settled(page);
  await page.reload();
  await expect(page.locator('#total')).toHaveValue('222');
});

test('from a weight in the table to the scale at that place', async ({ page }) => {
  await page.goto('/weighouts/1');
  await page.locator('.grid tbody tr:not(.bylay)').nth(3).locator('.cell').nth(2).getByRole('link').click();
  await expect(page.locator('.now')).toHaveText('flax, bleached');
  await expect(page.locator('.where')).toContainText('Unit 3 of 4');
  await page.locator('#said').fill(await page.locator('.huge').innerText());
  await page.keyboard.press('Enter');
  await expect(page.locator('.bowl .sub').last()).toHaveText('8 of 20 weighed');
  await expect(page.locator('.where')).toContainText('Unit 2 of 4');
});
