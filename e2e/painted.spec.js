import { test, expect, axe, late, settled } from './world.js';

test.use({ verb: 'demo', expected: ['422', '409'] });

// A painted top of five colours from the shelf to the yarn: its colours lie somewhere at every stop. The batt leads on the blend's
// page; five lengths lie abreast; after one pass all are seen, after two that are spread nobody tells them apart; the yarn has
// runs with their metres.
test('a painted top keeps its colours from the shelf to the yarn', async ({ page }) => {
  await page.goto('/shelf?q=Spring');
  await page.getByRole('link', { name: /Spring Tide/ }).first().click();
  await expect(page.locator('.facts')).toContainText('one after the other along it');
  await expect(page.locator('.facts')).toContainText('12\u00a0cm each');
  await page.goto('/blends/11');
  await expect(page.locator('.aslaid img')).toBeVisible();
  await expect(page.locator('.aslaid')).toContainText('streaky');
  await expect(page.locator('.comes-out')).toContainText('Nobody sees this colour before pass');
  await axe(page, 'a blend that keeps its streaks');
  await page.getByLabel('Passes planned').fill('2');
  await page.keyboard.press('Tab');
  await settled(page);
  await expect(page.locator('.aslaid')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('.aslaid img')).toBeVisible();

  await late(page, 400);
  await page.goto('/layups/5');
  await expect(page.locator('#fedas')).toHaveCount(1);
  await page.getByRole('radio', { name: /painted top/ }).check();
  await expect(page.locator('#fedas')).toHaveValue('abreast');
  await page.locator('[name="abreast"]').fill('0x');
  await page.keyboard.press('Tab');
  await expect(page.locator('.therefor .wrong').first()).toContainText('whole number');
  await expect(page.locator('[name="abreast"]')).toHaveValue('0x');
  await page.locator('[name="abreast"]').fill('3');
  await page.keyboard.press('Tab');
  await settled(page);
  await page.locator('#fedas').selectOption('in-order');
  await settled(page);
  await expect(page.locator('[name="abreast"]')).toBeHidden();
  await page.reload();
  await page.getByRole('radio', { name: /painted top/ }).check();
  await expect(page.locator('#fedas')).toHaveValue('in-order');
  await axe(page, 'a fibre of several colours on the bed');
  await page.getByRole('link', { name: 'To the carder' }).click();
  await expect(page.locator('.where')).toContainText('step 1 of');
  for (let n = 0; n < 3; n += 1) await page.keyboard.press('ArrowRight');
  await expect(page.locator('.workstep .worklays')).toContainText('as its colours run');

  await page.goto('/layups/5/card');
  await expect(page.locator('.cardsaid')).toContainText(/streaky|marled/);
  await page.goto('/layups/5/yarn');
  await page.getByText('chain-ply', { exact: true }).click();
  await settled(page);
  await expect(page.locator('main')).toContainText(/painted top “Spring Tide”, (dark|deep|muted|soft|bright|pale|mid)/);
});
