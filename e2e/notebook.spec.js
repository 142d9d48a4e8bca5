// The notebook: what was made, how good the forecasts were, and the order of a day.
import { test, expect, axe, tabTo } from './world.js';

test.use({ verb: 'world', expected: ['status of 422'] });

// waits puts a weigh-out that waits for the drum into the world.
async function waits(page, blend, layup, name, units, grams) {
  const res = await page.request.post(`/api/v1/blends/${blend}/weighouts`, { data: { name, units, finished_g: grams, passes: 1, step_g: 0.1, layup_id: layup } });
  expect(res.status()).toBe(201);
}

test('the order of a day: moved by hand with its cost, and into the calendar', async ({ page }) => {
  await page.goto('/');
  await waits(page, 3, 2, 'Low Water, dark batts', 2, 60);
  await waits(page, 9, 3, 'Border, art batt', 1, 57);
  await page.goto('/notebook');
  await tabTo(page, page.getByRole('link', { name: 'Order of the day' }));
  await page.keyboard.press('Enter');
  await expect(page.locator('.daysteps li.card')).not.toHaveCount(0);
  await expect(page.locator('main')).toContainText('No order of these needs less cleaning');
  const first = await page.locator('.daysteps b').first().innerText();
  await axe(page, 'the order of the day');
  await page.locator('.daysteps').getByRole('link', { name: 'Earlier' }).last().click();
  await expect(page.locator('main')).toContainText(/As you moved it|No order of these/);
  await page.getByRole('link', { name: 'The best order' }).click();
  await expect(page.locator('.daysteps b').first()).toHaveText(first);
  await page.getByLabel('Minutes there are').fill('60');
  await page.getByLabel('Begins at').fill('14:30');
  await page.getByRole('button', { name: 'Put it in order' }).click();
  await expect(page.locator('.answer')).toContainText('fit into the time there is');
  await expect(page.locator('.daysteps')).toContainText('14:30 to');
  const file = await page.request.get(await page.getByRole('link', { name: 'Into the calendar' }).getAttribute('href'));
  expect(await file.text()).toContain('BEGIN:VEVENT');
  await page.getByLabel('A full cleaning, min').fill('long');
  await page.getByRole('button', { name: 'Put it in order' }).click();
  await expect(page.getByRole('alert')).toContainText('not a number');
  await expect(page.getByLabel('A full cleaning, min')).toHaveValue('long');
  for (const width of [820, 390]) {
    await page.setViewportSize({ width, height: 900 });
    for (const path of ['/day', '/notebook', '/runs/1/card']) {
      await page.goto(path);
      expect(await page.evaluate(() => document.documentElement.scrollWidth), path).toBeLessThanOrEqual(width);
    }
  }
});

test('a forecast that failed is found and left out of learning', async ({ page }) => {
  await page.goto('/runs/1/record');
  const off = page.locator('[name="off 0.1"]');
  await off.fill('26.2');
  await off.press('Enter');
  await expect(page.locator('.hint .saved')).toHaveText('Saved');
  await page.goto('/notebook');
  await expect(page.locator('aside')).toContainText("Of 1 weight foreseen, 0 lay in the range");
  await expect(page.locator('.weightplot .missed')).toHaveCount(1);
  const here = page.getByRole('row', { name: /Southdown/ }).locator('b');
  const learned = await here.innerText();
  await page.locator('summary', { hasText: 'Each weighing' }).click();
  await page.getByRole('button', { name: /Leave out: Cuffs/ }).click();
  await expect(page.getByRole('row', { name: /Southdown/ })).toHaveCount(0);
  await page.locator('summary', { hasText: 'Each weighing' }).click();
  await expect(page.locator('.lessons')).toContainText('left out by you');
  await page.getByRole('button', { name: /Take in again: Cuffs/ }).click();
  await expect(here).toHaveText(learned);
  await page.getByRole('button', { name: 'Use the usual losses instead' }).click();
  await expect(page.locator('aside')).toContainText('use the usual losses');
});

test('made again with a lot gone; two lines side by side; a record card', async ({ page }) => {
  await page.goto('/lots/13');
  await page.getByRole('button', { name: 'To the bin' }).click();
  await page.goto('/runs/1/record');
  await page.getByRole('button', { name: 'Make it again' }).click();
  await expect(page.locator('.notice').first()).toContainText('found anew');
  await expect(page.locator('main')).toContainText('CIEDE2000');
  await page.goto('/weighouts/2');
  await page.getByRole('button', { name: 'Card it once more' }).click();
  await page.goto('/notebook?q=cuffs');
  const beside = page.getByLabel(/beside/);
  await expect(beside).toHaveCount(2);
  for (let i = 0; i < 2; i++) await beside.nth(i).check();
  await page.getByRole('button', { name: 'Set two side by side' }).click();
  await expect(page.locator('.besidetable thead th')).toHaveCount(2);
  await expect(page.locator('.besidetable')).toContainText('curly locks, kelp');
  await page.goto('/runs/1/card');
  await expect(page.locator('.recordcard')).toContainText('Of 28.7 g weighed in');
  await page.emulateMedia({ media: 'print' });
  await expect(page.locator('.strand')).toBeHidden();
  await expect(page.locator('.recordcard')).toBeVisible();
});

test('a sample is carded, decided on, and found in the notebook', async ({ page }) => {
  await page.goto('/blends/6');
  await page.getByRole('link', { name: 'Try a sample' }).click();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Slack, a sample');
  await page.getByRole('button', { name: 'Keep this weigh-out' }).click();
  await page.getByRole('button', { name: 'To the carder' }).click();
  await expect(page).toHaveURL(/\/runs\/\d+$/);
  await page.goto(`${page.url()}/record`);
  const off = page.locator('[name="off 0.1"]');
  await off.fill('8.6');
  await off.press('Enter');
  await expect(page.locator('.hint .saved')).toHaveText('Saved');
  await page.getByLabel('Why, or what is to change').fill('a third more flax');
  await page.getByRole('button', { name: 'Keep the decision' }).click();
  await expect(page.getByRole('alert').first()).toContainText('Choose one of the three');
  await expect(page.getByLabel('Why, or what is to change')).toHaveValue('a third more flax');
  await page.getByLabel('change it and try again').check();
  await page.getByRole('button', { name: 'Keep the decision' }).click();
  await expect(page.getByRole('link', { name: 'Change the blend' })).toBeVisible();
  await axe(page, 'what was decided on a sample');
  await page.goto('/notebook?sort=trial');
  await expect(page.locator('.notes')).toContainText('change it and try again: a third more flax');
  // The sample is no part of the blend: as much is to be weighed as before.
  await page.goto('/blends/6');
  await expect(page.locator('main')).toContainText('Weigh it out');
});

test('a cleaning is noted and weighed, and taken back', async ({ page }) => {
  await page.goto('/equipment/1/book?full=1');
  const brought = page.getByLabel(/It brought up/);
  await brought.fill('two');
  await page.getByLabel('Note', { exact: true }).fill('mussel navy in it');
  await page.getByRole('button', { name: 'Note the cleaning' }).press('Enter');
  await expect(page.getByRole('alert')).toContainText('not a number');
  await expect(page.getByLabel('Note', { exact: true })).toHaveValue('mussel navy in it');
  await brought.fill('2.4');
  await brought.press('Enter');
  await expect(page.locator('#cloth')).toContainText('brought up 2.4 g, where');
  await axe(page, 'a carder’s book');
  await page.getByRole('button', { name: 'To the bin' }).click();
  await page.goto('/equipment/1/book');
  await expect(page.locator('#cloth')).toContainText('No cleaning was noted yet');
});
