import { test, expect, axe, late, settled } from './world.js';

test.use({ verb: 'world', expected: ['422', '409'] });

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

test('a photo of a painted top gives a lot its colours and their lengths, and takes them back', async ({ page }) => {
  await page.goto('/photos');
  const url = await page.evaluate(() => {
    const c = document.createElement('canvas');
    [c.width, c.height] = [1000, 400];
    const at = c.getContext('2d');
    at.fillStyle = '#c4c1ba';
    at.fillRect(0, 0, 1000, 400);
    ['#2e4a6b', '#c9713d', '#d9c7a0', '#6d8f5a'].forEach((hex, i) => { at.fillStyle = hex; at.fillRect(100 + 200 * i, 150, 200, 60); });
    return c.toDataURL('image/png');
  });
  await page.locator('#photo').setInputFiles({ name: 'top.png', mimeType: 'image/png', buffer: Buffer.from(url.split(',')[1], 'base64') });
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(page.locator('.picture')).toBeVisible();
  await page.getByRole('button', { name: 'Read the runs' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Enter a length in cm' })).toBeVisible();
  const picture = page.locator('.picture');
  const { width, height } = await picture.boundingBox();
  const click = (x, y) => picture.click({ position: { x: (width * x) / 1000, y: (height * y) / 400 } });
  await page.getByRole('button', { name: 'Two clicks mark a length' }).click();
  await click(100, 300);
  await click(900, 300);
  await page.getByRole('button', { name: 'Two clicks mark the batt or top' }).click();
  await click(102, 160);
  await click(898, 200);
  await page.getByLabel(/The length is/).fill('80');
  await page.getByRole('button', { name: 'Read the runs' }).click();
  await expect(page.locator('.toplist li')).toHaveCount(4);
  await expect(page.getByText('4 runs, each of a colour of its own')).toBeVisible();
  await page.getByRole('button', { name: 'Give them' }).click();
  await expect(page.getByText('Choose a lot.')).toBeVisible();
  const lots = page.getByLabel('Make them the colours of a lot');
  await lots.selectOption((await lots.locator('option', { hasText: 'undyed Romney' }).first().getAttribute('value')));
  await page.getByRole('button', { name: 'Give them' }).click();
  await expect(page.getByText('undyed Romney has these 4 colours now.')).toBeVisible();
  await axe(page, 'photo of a top');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('undyed Romney has its colour back.')).toBeVisible();
});
