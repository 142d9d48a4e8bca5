import { test, expect, axe, lay } from './world.js';

test.use({ verb: 'demo' });

const passes = (page) => page.locator('.passes label');
const picture = (page) => page.locator('.batt img');

// drawn waits until the large picture is there, and gives what it says of itself.
async function drawn(page) {
  await expect.poll(() => picture(page).evaluate((img) => img.complete && img.naturalWidth)).toBeGreaterThan(100);
  return picture(page).getAttribute('alt');
}

// Seven lanes of a progressive batt: own place keeps them, spread ends them; the
// passes that are foreseen are planned, and the lay-up has them.
test('a gradient is kept by one way to feed it again and ended by another', async ({ page }) => {
  await lay(page, 9, { builder: 'Lanes', repeats: 3 });
  await page.getByRole('link', { name: 'Card', exact: true }).click();
  await expect(passes(page)).toHaveCount(4);
  await passes(page).nth(2).click();
  expect(await drawn(page)).toContain('pass 3');
  const own = page.locator('.ways label', { hasText: 'in its own place' });
  const spread = page.locator('.ways label', { hasText: 'Each strip over the whole width' });
  await own.click();
  await expect(own).toContainText('keeps your gradient');
  await expect(spread).toContainText('ends your gradient');
  await expect(page.locator('.cardsaid .answerline')).toContainText('A gradient lies across it.');
  expect(await drawn(page)).toContain('A gradient lies across it.');
  await spread.click();
  await passes(page).nth(3).click();
  await expect(page.locator('.cardsaid .answerline')).not.toContainText('A gradient');
  await expect(page.locator('.needs li')).toHaveCount(3, { timeout: 60_000 });
  await axe(page, 'a batt foretold');

  await own.click();
  await page.getByRole('button', { name: 'Divide it like this in the lay-up' }).click();
  await expect(page.locator('.saved')).toContainText('divides it like this now');
  await page.getByRole('link', { name: 'The lay-up' }).click();
  await expect(page.getByLabel('Divided into strips')).toHaveValue('4');
});

test('passes that are foreseen are planned, and the weigh-out follows', async ({ page }) => {
  await page.goto('/layups/1/card');
  const even = page.locator('.needs li', { hasText: 'to be even' });
  await expect(even).toBeVisible({ timeout: 60_000 });
  const n = (await even.locator('.num').textContent()).match(/\d+/)[0];
  await even.getByRole('button', { name: `Plan ${n} passes` }).click();
  await expect(page.locator('.saved')).toContainText(`plans ${n} passes now`);
  await expect(even).toContainText('as planned');
  await expect(page.locator('.passes .planned')).toContainText(`pass ${n}`);
});

test('it is turned over, cut and looked at near by, by keyboard alone', async ({ page }) => {
  await page.goto('/layups/1/card');
  const face = await drawn(page);
  expect(face).toContain('pass 2');
  await page.getByRole('radio', { name: 'Face' }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(picture(page)).toHaveAttribute('src', /side=back/);
  await drawn(page);
  await page.keyboard.press('ArrowRight');
  await expect(picture(page)).toHaveAttribute('src', /side=section/);
  await drawn(page);
  await page.keyboard.press('ArrowRight');
  await page.getByRole('button', { name: 'loupe' }).focus();
  await page.keyboard.press('Enter');
  const loupe = page.locator('.loupe');
  await expect(loupe).toHaveCSS('background-image', /mm=10/);
  const before = await loupe.getAttribute('style');
  await page.keyboard.press('ArrowRight');
  await expect(loupe).not.toHaveAttribute('style', before);
  await page.keyboard.press('Escape');
  await expect(loupe).toBeHidden();
});

test('the bench shows what it should look like when it is lifted off', async ({ page }) => {
  await page.goto('/layups/1/bench');
  const title = page.locator('.workstep .now');
  for (let i = 0; i < 20 && !(await title.textContent()).startsWith('Lift'); i += 1) await page.keyboard.press('ArrowRight');
  await expect(title).toContainText('pass 1');
  const img = page.locator('.expected img');
  await expect(img).toHaveAttribute('alt', /^Foreseen: /);
  await expect.poll(() => img.evaluate((i) => i.complete && i.naturalWidth)).toBe(640);
  await axe(page, 'lifting off');
});

test('a blend shows what carding makes of it, before it has a lay-up', async ({ page }) => {
  await page.goto('/blends/7');
  await page.getByText('As it is carded, pass by pass').click();
  const list = page.locator('.looks .passes li');
  await expect(list).toHaveCount(4);
  await expect(list.last()).toContainText(/heathered|even/);
  const before = await list.first().locator('img').getAttribute('src');
  await page.getByRole('button', { name: 'Show parts' }).click();
  await page.locator('input[name^="parts"]').first().fill('9');
  await page.keyboard.press('Tab');
  await expect(list.first().locator('img')).not.toHaveAttribute('src', before);
  await axe(page, 'the looks of a blend');
});

// Answers that are late never put an earlier division in place of a later one.
test('the latest division wins, with answers 400 ms late', async ({ page }) => {
  await page.goto('/layups/1/card');
  await drawn(page);
  await page.route('**/card.json*', async (route) => {
    await new Promise((r) => { setTimeout(r, 400); });
    await route.continue();
  });
  for (const n of ['6', '8', '3']) await page.locator('.strips label', { hasText: n }).click();
  await page.locator('.ways label', { hasText: 'in its own place' }).click();
  await page.waitForTimeout(2500);
  await expect(page.locator('.strips .chosen')).toHaveText('3');
  await expect(page.locator('.ways .chosen')).toContainText('in its own place');
  await expect(picture(page)).toHaveAttribute('src', /strips=3/);
  await expect(picture(page)).toHaveAttribute('src', /own-place/);
});

test('a board is seen as it is laid; a choice answers at once', async ({ page }, info) => {
  await page.goto('/layups/4/card');
  await drawn(page);
  await expect(page.getByText('How it is fed again')).toBeHidden();
  await page.goto('/layups/1/card');
  await drawn(page);
  for (const n of ['6', '3', '8', '2', '4']) {
    await page.locator('.strips label', { hasText: n }).click();
    await expect(picture(page)).toHaveAttribute('src', new RegExp(`strips=${n}&`));
    await expect(picture(page)).not.toHaveAttribute('src', /coarse/);
  }
  const took = await page.evaluate(() => performance.getEntriesByName('foretold').map((e) => e.duration).sort((a, b) => a - b));
  info.annotations.push({ type: 'foretold', description: `median ${Math.round(took[Math.floor(took.length / 2)])} ms` });
  console.log(`from a choice to its answer on the page: median ${Math.round(took[Math.floor(took.length / 2)])} ms of ${took.length}`);
});

for (const width of [820, 390]) {
  test(`a foretold batt fits a window ${width} wide`, async ({ page }) => {
    await page.setViewportSize({ width, height: 900 });
    await page.goto('/layups/1/card');
    await drawn(page);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
  });
}
