// Before it is laid, and off the tool: what is carded alone first, and how it comes off, known at the carder.
import { test, expect, axe, late, lay, settled, tabTo } from './world.js';

test.use({ verb: 'world', expected: ['status of 422'] });

const off = (page) => page.locator('details.offtool');

test('a board to rolags on a rod with a starter, by keys at 390, answers 400 ms late', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/layups/4');
  const { quiet } = await late(page, 400);
  await tabTo(page, off(page).locator('summary'), 200);
  await page.keyboard.press('Enter');
  await expect(off(page).getByRole('radio', { name: /rolags, band by band/ })).toBeChecked();
  await tabTo(page, off(page).getByRole('radio', { name: /rolags, band by band/ }));
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown'); // straight on to the next, before the answer
  await quiet();
  await settled(page);
  await expect(off(page).getByRole('radio', { name: /through a hole/ })).toBeChecked();
  await expect(off(page).getByText(/break the strand there/)).toBeVisible(); // locks lie in it
  const hole = off(page).getByLabel(/The hole/);
  await hole.fill('300');
  await hole.press('Enter');
  await expect(off(page).locator('.wrong')).toContainText('A hole is');
  await expect(hole).toHaveValue('300');
  await hole.fill('5');
  await hole.press('Enter');
  await quiet();
  await expect(off(page).locator('.wrong')).toBeHidden();
  await off(page).getByRole('radio', { name: /rolags, band by band/ }).check();
  await off(page).getByRole('radio', { name: /one rod, with a thin one/ }).check();
  await quiet();
  await settled(page);
  await axe(page, 'off the tool');
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);

  await page.goto('/layups/4/bench#5');
  await expect(page.locator('.now')).toHaveText('Roll it off');
  await expect(page.locator('.workstep .motionlist')).toContainText('A thin rod below the fibre, the thick one above it');
  await page.getByRole('button', { name: 'I know how' }).click();
  await expect(page.locator('.workstep .motionlist')).toBeHidden();
  await page.reload();
  await expect(page.locator('.now')).toHaveText('Roll it off');
  await expect(page.locator('.workstep .motionlist')).toBeHidden();
  await page.goto('/layups/1/bench#0');
  await expect(page.locator('.workstep .motionlist')).toHaveText(/Turn it once by hand/); // what keeps from harm stays
  await page.getByRole('button', { name: 'How hands do it' }).click();
  await expect(page.locator('.workstep .motionlist')).toContainText('Lift old fibre and dirt');
  await axe(page, 'what hands do');
});

test('ten punis off hand cards, counted with one key', async ({ page }) => {
  await page.goto('/equipment/new?preset=hand_cards_standard');
  await page.getByRole('button', { name: 'Save' }).click();
  await lay(page, 9, { equipment: 'Hand cards', builder: 'Sandwich' });
  await off(page).locator('summary').click();
  await off(page).getByRole('radio', { name: /punis/ }).check();
  await settled(page);
  const [, id] = page.url().match(/layups\/(\d+)/);
  const w = await (await page.request.post('/api/v1/blends/9/weighouts', {
    data: { units: 1, finished_g: 20, passes: 1, step_g: 0.1, layup_id: Number(id) },
  })).json();
  await page.goto(`/weighouts/${w.id}`);
  let at = w;
  for (let i = 0; at.next; i += 1) {
    const { unit, component } = at.next;
    at = await (await page.request.post(`/api/v1/weighouts/${w.id}/weighings`, {
      data: { key: `puni-weighed-${i}`, version: at.version, unit, component, grams: at.units[unit].cells[component].target_g },
    })).json();
  }
  await page.reload();
  await page.getByRole('button', { name: 'To the carder' }).click();
  await expect(page.locator('.now')).toHaveText('Before you begin');
  for (let i = 0; i < 20 && !/puni/.test(await page.locator('.now').innerText()); i += 1) await page.keyboard.press('ArrowRight');
  await expect(page.locator('.workstep .motionlist')).toContainText('Make ten, spin, make more');
  await page.route(/\/tell$/, async (route) => {
    await new Promise((done) => { setTimeout(done, 400); });
    await route.continue().catch(() => {});
  });
  for (let i = 0; i < 10; i += 1) await page.keyboard.press('+'); // one hand, faster than the answers
  await expect(page.locator('[name^="count "]')).toHaveValue('10', { timeout: 20_000 });
  await page.reload();
  await expect(page.locator('[name^="count "]')).toHaveValue('10');
});

test('each colour carded alone first, by keys at 390 with answers 400 ms late', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/layups/1');
  const { quiet } = await late(page, 400);
  await tabTo(page, page.getByText('Card each alone first'), 200);
  await page.keyboard.press('Enter');
  await tabTo(page, page.getByRole('button', { name: 'Each once' }), 200);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter'); // fast hands
  const romney = page.getByLabel('How often undyed Romney is carded alone first');
  await expect(romney).toHaveValue('1');
  await romney.focus();
  await page.keyboard.press('Control+A');
  await page.keyboard.type('9');
  await page.keyboard.press('Enter');
  await expect(page.getByText('It is carded alone 0 to 5 times.')).toBeVisible();
  await expect(romney).toHaveValue('9');
  await page.keyboard.press('Control+A');
  await page.keyboard.type('2');
  await page.keyboard.press('Enter');
  await quiet();
  await settled(page);
  await expect(page.getByText(/^First, for 4 units, from pale to dark: .* of undyed Romney twice, .* of grey-blue Corriedale once/)).toBeVisible();
  await expect(page.locator('.finding.of-stop')).toHaveCount(0);
  await axe(page, 'carded alone first');
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);

  await page.getByRole('link', { name: 'To the carder' }).click();
  await expect(page.locator('.now')).toHaveText('Before you begin');
  await page.keyboard.press('ArrowRight');
  await expect(page.locator('.now')).toHaveText(/Card undyed Romney alone, twice/);
  await page.goBack();
  for (let n = 0; n < 2; n += 1) {
    await page.getByRole('button', { name: 'Undo' }).click();
    await quiet();
    await settled(page);
  }
  await expect(page.getByText(/^Colour by colour through by itself/)).toBeAttached();
});

test('a felter mixes by hand: a figure by eye and by grams, a colour drawn out again, laid crosswise', async ({ page }) => {
  const { id: making } = await (await page.request.post('/api/v1/makings', { data: { name: 'Fox' } })).json();
  const blend = async (name, lots) => (await (await page.request.post(`/api/v1/makings/${making}/blends`, {
    data: { name, total_g: 20, passes: 0, target: '', components: lots.map(([lot_id, parts]) => ({ lot_id, parts })) },
  })).json()).id;
  const body = await blend('Body', [[1, 1], [4, 1]]);
  await blend('Patch', [[2, 1]]);
  await page.goto(`/makings/${making}/need`);
  await page.getByRole('button', { name: 'a figure, part by part' }).click();
  const { quiet } = await late(page, 400);
  const patch = page.getByLabel('Part of Patch');
  await patch.fill('');
  await patch.press('Tab');
  await quiet();
  await page.getByLabel('Part of Body').fill('35');
  await page.getByLabel('Part of Body').press('Enter');
  await quiet();
  await settled(page);
  await expect(page.locator('tr', { hasText: 'Patch' })).toContainText('by eye');
  await expect(page.locator('.answer .big')).toContainText('35');
  await axe(page, 'the need of a figure');

  await page.goto(`/blends/${body}`);
  await page.getByRole('button', { name: 'Mend this blend' }).click();
  await page.getByLabel('How it came out').selectOption('said');
  await page.getByRole('button', { name: 'clearly too dark' }).click();
  const out = page.getByRole('heading', { name: 'Or draw a strand out' });
  await expect(out).toBeVisible();
  const strand = page.locator('div', { has: out }).last().getByRole('listitem').first();
  await expect(strand).toContainText('leaves');
  await strand.getByRole('button', { name: 'Take it' }).dblclick(); // fast hands
  await quiet();
  await settled(page);
  await expect(page.getByText(/carded/).first()).toBeVisible();
  await page.reload();
  await expect(page.locator('.came').first()).toContainText(/came out/);

  await page.goto('/equipment/new?preset=hands_two');
  await page.getByRole('button', { name: 'Save' }).click();
  await lay(page, body, { equipment: 'Two hands', builder: 'Depth' });
  await off(page).locator('summary').click();
  await off(page).getByLabel(/laid crosswise/).check();
  await settled(page);
  await expect(off(page).locator('.howlies')).toContainText('shrinks alike both ways');
  await page.getByRole('link', { name: 'To the carder' }).click();
  await expect(page.locator('.now')).toHaveText('Before you begin');
  for (let i = 0; i < 30 && !/Done/.test(await page.locator('.now').innerText()); i += 1) await page.keyboard.press('ArrowRight');
  await expect(page.locator('.workstep')).toContainText('a quarter of a turn');
});

test('picked and oiled before, finished on hand cards after, by keys at 390', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/tools');
  await page.getByLabel('Name of the tool').fill('swing picker');
  await page.getByLabel(/Minutes for/).fill('0');
  await page.getByRole('button', { name: 'Save the tool' }).click();
  await expect(page.locator('.wrong').first()).toContainText('above 0');
  await expect(page.getByLabel('Name of the tool')).toHaveValue('swing picker');
  await page.getByLabel(/Minutes for/).fill('3');
  await page.getByLabel('Cleaning').fill('brush the bed');
  await page.getByRole('button', { name: 'Save the tool' }).click();
  await expect(page.locator('.lines')).toContainText('swing picker');
  await axe(page, 'tools');
  await page.goto('/layups/1');
  const { quiet } = await late(page, 400);
  const tools = page.locator('details.othertools');
  await tabTo(page, tools.locator('summary'), 200);
  await page.keyboard.press('Enter');
  const before = tools.getByRole('group', { name: 'Before it is laid' });
  await tabTo(page, before.getByRole('checkbox', { name: /^picked/ }), 20);
  await page.keyboard.press('Space');
  await tabTo(page, before.getByRole('checkbox', { name: /^oiled/ }), 20);
  await page.keyboard.press('Space');
  await tabTo(page, tools.getByRole('group', { name: 'After it came off' }).getByRole('checkbox', { name: /^on hand cards/ }), 20);
  await page.keyboard.press('Space');
  await quiet();
  await settled(page);
  await expect(tools).toContainText('Before it is laid: picked, oiled; after it comes off: on hand cards.');
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
  await axe(page, 'other tools');
  await page.goto('/layups/1/bench#1');
  await expect(page.locator('.now')).toHaveText('Open it in the picker');
  await expect(page.locator('.workstep')).toContainText('swing picker, about 2 min');
  await expect(page.locator('.workstep')).toContainText('brush the bed');
  await page.goto('/layups/1/card');
  await expect(page.locator('.notice')).toContainText('not foreseen');
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
});

test('rolags straight off the drum, then the same batt drawn off as roving: the carder says how', async ({ page }) => {
  for (const [choice, title] of [[/rolags straight off the drum/, /^Roll it off/], [/roving drawn off through a hole/, /^Draw it off/]]) {
    await page.goto('/layups/1');
    await off(page).locator('summary').click();
    await off(page).getByRole('radio', { name: choice }).check();
    await settled(page);
    await page.goto('/layups/1/bench');
    await expect(page.locator('.now')).toHaveText('Before you begin');
    for (let i = 0; i < 40 && !title.test(await page.locator('.now').innerText()); i += 1) await page.keyboard.press('ArrowRight');
    await expect(page.locator('.now')).toHaveText(title);
    await expect(page.locator('.workstep .motionlist li').first()).toBeVisible();
  }
});
