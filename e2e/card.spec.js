import { test, expect, axe, lay } from './world.js';

test.use({ verb: 'world' });

const passes = (page) => page.locator('.passes label');
const strips = (page) => page.getByRole('radiogroup', { name: 'Into how many strips' }).locator('label');
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
  for (const n of ['6', '8', '3']) await strips(page).filter({ hasText: n }).click();
  await page.locator('.ways label', { hasText: 'in its own place' }).click();
  await page.waitForTimeout(2500);
  await expect(strips(page).and(page.locator('.chosen'))).toHaveText('3');
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
    await strips(page).filter({ hasText: n }).click();
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

// Nothing on the drum yet: the look that is wanted plans the passes, and the weigh-out
// that follows has them.
test('a look that is chosen on the blend plans its passes', async ({ page }) => {
  await page.goto('/blends/7');
  await page.getByText('As it is carded, pass by pass').click();
  const list = page.locator('.looks .passes li');
  await expect(list).toHaveCount(4);
  const at = list.filter({ has: page.getByRole('button', { name: /^Make it (heathered|even)$/ }) }).first();
  const n = (await at.locator('.passcap').textContent()).match(/pass (\d)/)[1];
  await at.getByRole('button').click();
  await expect(page.getByLabel('Passes planned')).toHaveValue(n);
  const planned = list.nth(Number(n) - 1).getByText('as planned');
  await expect(planned).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('Passes planned')).not.toHaveValue(n);
  await expect(planned).toBeHidden();
  await at.getByRole('button').click();
  await expect(planned).toBeVisible();
  await page.getByRole('link', { name: 'Weigh it out' }).click();
  await expect(page.getByLabel('Passes')).toHaveValue(n);
});

const held = (page) => page.locator('.heldlist li');
const gramsOf = async (loc) => (await loc.allTextContents()).map((t) => Number(t.replace(/[^\d.]/g, '')));

test('each part says what it holds, by width and by weight', async ({ page }) => {
  await page.goto('/layups/3/card');
  await drawn(page);
  await page.locator('.heldside .strips label', { hasText: '2' }).click();
  await expect(held(page)).toHaveCount(2);
  await expect(held(page).first()).toContainText('strip 1');
  const [left, right] = await held(page).locator('.sub').allTextContents();
  expect(left).not.toBe(right);
  const comes = Number((await page.locator('.facts div', { hasText: 'Comes off' }).locator('dd').textContent()).replace(/[^\d.]/g, ''));
  const width = await gramsOf(held(page).locator('.num'));
  expect(width[0] + width[1]).toBeCloseTo(comes, 0);
  await page.getByLabel('equal by weight, not by width').check();
  await expect.poll(async () => { const [a, b] = await gramsOf(held(page).locator('.num')); return Math.abs(a - b); }).toBeLessThan(0.11);
  await held(page).first().locator('img').scrollIntoViewIfNeeded();
  await expect.poll(() => held(page).first().locator('img').evaluate((i) => i.complete && i.naturalWidth)).toBe(620);
  await axe(page, 'what a part holds');
});

test('the same batt fed again in two ways, one beside the other', async ({ page }) => {
  await page.goto('/layups/3/card');
  await drawn(page);
  await passes(page).nth(2).click();
  await page.getByLabel('What to set beside it').selectOption({ label: 'this one: Each strip over the whole width' });
  await page.locator('.ways label', { hasText: 'in its own place' }).click();
  await expect(page.locator('.against')).toContainText('the gradient above is gone here');
  await expect(page.locator('.passes.two')).toHaveCount(2);
  await page.getByLabel('What to set beside it').selectOption({ label: 'Slack, four batts' });
  await expect(page.locator('.against')).toContainText('mixed evenly, this is');
  await axe(page, 'two batts beside each other');
  await page.getByLabel('What to set beside it').selectOption('');
  await expect(page.locator('.passes.two')).toHaveCount(0);
});

// A carder that opens little: what its test batt looked like is noted, the forecast
// follows, says so, and leaves it out again.
test('the forecast follows a test batt of one\'s own carder', async ({ page }) => {
  await page.goto('/layups/1/card');
  const even = page.locator('.needs li', { hasText: 'to be even' });
  await expect(even).toBeVisible({ timeout: 60_000 });
  const passesTo = async () => Number((await even.locator('.how').textContent()).match(/(\d+) pass/)[1]);
  const before = await passesTo();
  const seen = page.locator('.notedlist select');
  await expect(page.getByRole('button', { name: 'Let forecasts follow it' })).toBeDisabled();
  for (const [i, look] of ['streaky', 'streaky', 'streaky', 'marled'].entries()) await seen.nth(i).selectOption(look);
  await page.getByRole('button', { name: 'Let forecasts follow it' }).click();
  await expect(page.getByRole('button', { name: 'Leave the test batt out' })).toBeVisible({ timeout: 60_000 });
  await expect(even).toContainText(`${before} passes before`, { timeout: 60_000 });
  expect(await passesTo()).toBeGreaterThan(before);
  await expect(page.getByText('opens less than usual')).toBeVisible();
  await axe(page, 'a carder that was fitted');
  await page.reload();
  await expect(seen.nth(3)).toHaveValue('marled');
  await page.getByRole('button', { name: 'Leave the test batt out' }).click();
  await expect(page.getByText('Nothing of it was measured')).toBeVisible();
  await expect(even).toContainText(`${before} passes`, { timeout: 60_000 });
});

test('a board in three rolags, each with what it holds', async ({ page }) => {
  await page.goto('/layups/4/card');
  await drawn(page);
  await expect(held(page)).toHaveCount(3);
  await expect(held(page).nth(2)).toContainText('rolag 3');
  await held(page).nth(2).locator('img').scrollIntoViewIfNeeded();
  await expect.poll(() => held(page).nth(2).locator('img').evaluate((i) => i.complete && i.naturalWidth)).toBe(620);
  await axe(page, 'rolags');
  await page.locator('.heldside .strips label', { hasText: '5' }).click();
  await expect(held(page)).toHaveCount(5);
  const comes = Number((await page.locator('.facts div', { hasText: 'Comes off' }).locator('dd').textContent()).replace(/[^\d.]/g, ''));
  const each = await gramsOf(held(page).locator('.num'));
  expect(Math.abs(each.reduce((a, b) => a + b) - comes)).toBeLessThan(0.3);
});

// No tool at all: hands stand in the choice with minutes and evenness, the rounds are
// foreseen and planned, and the bench goes round by round.
test('a blend is mixed by hand, from the workshop to the last round', async ({ page }) => {
  await page.goto('/blends/7/layup');
  const row = page.locator('.choices tr', { hasText: 'Two hands, no tool' });
  await expect(row).toContainText('rounds');
  await expect(row).toContainText(/\d (min|h)/);
  await row.getByRole('link', { name: 'add it' }).click();
  await page.getByRole('button', { name: 'Save' }).click();
  await lay(page, 7, { equipment: 'Two hands', builder: 'Depth' });
  await expect(page.locator('.headline')).toContainText('handfuls');
  await axe(page, 'a handful laid');
  await page.getByRole('link', { name: 'Card', exact: true }).click();
  await drawn(page);
  await expect(passes(page)).toHaveCount(6);
  await expect(passes(page).nth(5)).toContainText('round 6');
  await expect(page.getByText('How it is fed again')).toBeHidden();
  await expect(page.getByText('lost in this pass')).toHaveCount(0);
  const heathered = page.locator('.needs li', { hasText: 'to be heathered' });
  await expect(heathered).toContainText(/round|within/, { timeout: 60_000 });
  await passes(page).nth(1).click();
  const plan = page.locator('.needs').getByRole('button', { name: /^Plan \d rounds?$/ }).first();
  const n = (await plan.textContent()).match(/\d/)[0];
  await plan.click();
  await expect(page.locator('.saved')).toContainText(`${n} round`);
  await page.getByRole('link', { name: 'To the carder' }).click();
  const title = page.locator('.workstep .now');
  const seen = [];
  for (let i = 0; i < 60 && (await title.textContent()) !== 'Done'; i += 1) {
    seen.push(await title.textContent());
    await page.keyboard.press('ArrowRight');
  }
  expect(seen.filter((t) => t.startsWith('Tear it and lay it again'))).toHaveLength(Number(n) - 1);
  await expect(page.locator('.workstep .cautions')).toBeHidden();
});

// Between two layers of wool, two shares in a hundred of film: one batt more even than
// the one before it.
test('a sandwich with sparkle is carded until it is even', async ({ page }) => {
  await page.goto('/layups/1/card');
  const even = page.locator('.needs li', { hasText: 'to be even' });
  await expect(even).toBeVisible({ timeout: 60_000 });
  await even.getByRole('button', { name: /^Plan/ }).click();
  await expect(page.locator('.passes .planned b')).toHaveText('even');
  const spreads = [];
  for (const label of await passes(page).all()) {
    await label.click();
    spreads.push(Number((await page.locator('.facts div', { hasText: 'Patches differ by' }).locator('dd').textContent()).replace('~', '')));
  }
  expect(spreads.at(-1)).toBeLessThanOrEqual(2);
  await expect(page.locator('.lookplot')).toHaveAttribute('aria-label', new RegExp(`differ by ${spreads.at(-1).toFixed(1)}, even`));
});
