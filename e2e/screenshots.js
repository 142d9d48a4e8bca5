// Refreshes the pictures of the main views in docs/screenshots.
import { test, expect } from './world.js';

test.use({ verb: 'demo' });

const views = {
  makings: '/makings', shelf: '/shelf', making: '/makings/3',
  blend: '/blends/6',
  'weigh-out': '/weighouts/1', scale: '/weighouts/1/scale',
  layup: '/layups/3', 'layup-board': '/layups/4', record: '/runs/1/record', practise: '/practise/within?seed=6&level=3&by=hue&part0=5&part1=3&part2=7', notebook: '/notebook',
  gradient: '/gradients/1', together: '/colours?lot=1&scheme=split&pick=1,3', need: '/needs/1', yarn: '/layups/3/yarn',
};

// Pictures of a batt come a moment after the page.
views.card = '/layups/3/card';

const keep = (page, name) => page.screenshot({ path: new URL(`../docs/screenshots/${name}.png`, import.meta.url).pathname });

test('pictures of the main views', async ({ page }) => {
  for (const [name, path] of Object.entries(views)) {
    await page.goto(path, { waitUntil: name === 'scale' ? 'load' : 'networkidle' }); // the scale never falls silent
    if (name === 'scale') {
      await page.request.post('/pans/1/put?grams=7.3', { headers: { 'X-Pan': '1' } });
      await expect(page.locator('.livesaid')).toHaveText('3.7 g to go');
      await expect(page.locator('.livenet')).not.toHaveClass(/waiting/);
    }
    if (name === 'card') await expect(page.locator('.needs li')).toHaveCount(3, { timeout: 60_000 });
    await keep(page, name);
  }
  await page.goto('/blends/6');
  await page.getByRole('button', { name: 'Find proportions' }).click();
  await expect(page.locator('.tool:visible .recipes li').first()).toBeVisible();
  await keep(page, 'find');
  await page.goto('/weighouts/1');
  await page.getByRole('button', { name: 'To the carder' }).click();
  for (let i = 0; i < 9 && !(await page.locator('.now').innerText()).startsWith('Lift'); i++) await page.keyboard.press('ArrowRight');
  await page.locator('[name="off 0.1"]').fill('39.2');
  await page.keyboard.press('Enter');
  await expect(page.locator('.another:visible')).toBeVisible();
  await expect(page.locator('.expected img')).toBeVisible();
  await keep(page, 'bench');
  await page.goto('/photos/1');
  await page.getByRole('button', { name: 'A click shows the card' }).click();
  const at = async (x, y) => {
    const box = await page.locator('.picture').boundingBox();
    await page.mouse.click(box.x + box.width * x, box.y + box.height * y);
  };
  await at(0.105, 0.825);
  await expect(page.getByText('Balanced by the card at the mark').first()).toBeVisible();
  await at(0.5, 0.47);
  await page.getByRole('button', { name: 'Take a palette' }).click();
  await expect(page.locator('.palette li')).toHaveCount(6);
  await keep(page, 'photo');
});
