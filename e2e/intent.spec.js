import { test, expect, axe, settled, tabTo } from './world.js';

test.use({ verb: 'world', expected: ['422', '409'] });

const lotPage = async (page, name) => {
  await page.goto(`/shelf?q=${encodeURIComponent(name)}`);
  await page.locator('.wall a').first().click();
};

// An unloved painted top: its colours become a gradient, its rungs blends, and
// the shelf lifts one of them.
test('a painted top is rescued', async ({ page }) => {
  await lotPage(page, 'Estuary');
  await page.getByLabel('A gradient in').selectOption('Samphire mitts');
  await page.getByRole('button', { name: 'Make the gradient' }).click();
  await expect(page.locator('.stops li')).toHaveCount(3);
  const grams = await page.locator('.stops .numfield').evaluateAll((els) => els.map((el) => Number(el.value)));
  expect(grams.reduce((a, b) => a + b)).toBe(100);
  await expect(page.locator('.ladder li')).toHaveCount(7);
  await page.getByRole('radio', { name: /^Even steps/ }).check();
  await settled(page);
  await page.getByLabel('Bridges', { exact: true }).fill('1');
  await page.getByLabel('Bridges', { exact: true }).press('Enter');
  await expect(page.locator('.ladder li')).toHaveCount(5);
  const abrupt = page.locator('.jump.abrupt');
  const before = await abrupt.count();
  expect(before).toBeGreaterThan(0);
  const largest = async () => Math.max(...(await page.locator('.jump .num').allTextContents()).map(parseFloat));
  const jump = await largest();
  await page.locator('.jump.abrupt').first().getByRole('button', { name: /One more bridge/ }).click();
  await expect(page.locator('.ladder li')).toHaveCount(6);
  expect(await largest()).toBeLessThanOrEqual(jump);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('.ladder li')).toHaveCount(5);
  await axe(page, 'gradient of a painted top');
  await page.getByRole('button', { name: 'Make blends of the rungs' }).click();
  await expect(page.getByRole('heading', { name: 'Weigh list of Samphire mitts' })).toBeVisible();
  await page.getByRole('button', { name: 'Plan them all as suggested' }).click();
  await expect(page.getByRole('link', { name: 'To the scale' })).toBeVisible();
  await axe(page, 'weigh list of the rungs');
  await page.getByRole('link', { name: 'Back to Samphire mitts' }).click();
  await expect(page.locator('.blends li')).toHaveCount(7);

  // The middle one is dull; brighter fibre of the shelf lifts it.
  await page.locator('.blends a', { hasText: '3,' }).click();
  await expect(page.locator('.rows li')).toHaveCount(1);
  await page.getByRole('button', { name: 'Mend this blend' }).click();
  await page.getByRole('button', { name: 'clearly too dull' }).click();
  await expect(page.getByRole('region', { name: 'Mends' })).toContainText('duller');
  const take = page.locator('.tool:visible .recipes').getByRole('button', { name: 'Take it' });
  await expect(take.first()).toBeVisible();
  await axe(page, 'mends');
  const weight = Number(await page.locator('#total').inputValue());
  await take.first().click();
  await settled(page);
  expect(await page.locator('.rows li').count()).toBeGreaterThan(1);
  expect(Number(await page.locator('#total').inputValue())).toBeGreaterThan(weight);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('.rows li')).toHaveCount(1);
});

test('a blend that came out too light is mended by keyboard', async ({ page }) => {
  await page.goto('/blends/6');
  await tabTo(page, page.locator('#openmend'));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Mend this blend' })).toBeFocused();
  await tabTo(page, page.getByRole('button', { name: 'clearly too light' }));
  await page.keyboard.press('Enter');
  const mends = page.getByRole('region', { name: 'Mends' });
  await expect(mends).toContainText('lighter');
  const off = parseFloat(await mends.locator('.beforeline b').textContent());
  const after = parseFloat(await mends.locator('.recipes .how .num').first().textContent());
  expect(after).toBeLessThan(off);
  await tabTo(page, mends.getByRole('button', { name: 'Take it' }).first());
  await page.keyboard.press('Enter');
  await settled(page);
  await expect(page.locator('#openmend')).toBeFocused();
  await page.locator('#openmend').press('Enter');
  await page.getByLabel('It weighs, g').fill('much');
  await page.getByLabel('It weighs, g').press('Tab');
  await page.getByRole('button', { name: 'a little too warm' }).click();
  await expect(page.getByText('“much” is not a number')).toBeVisible();
  await expect(page.getByLabel('It weighs, g')).toHaveValue('much');
  await page.keyboard.press('Escape');
  await expect(page.locator('#openmend')).toBeFocused();
});

test('proportions are found, watched, stopped and taken', async ({ page }) => {
  await page.goto('/blends/6');
  await page.getByRole('button', { name: 'Find proportions' }).click();
  const answers = page.locator('.tool:visible .recipes li');
  await expect(answers.first()).toBeVisible();
  expect(parseFloat(await answers.first().locator('.how .num').textContent())).toBeLessThan(0.6);
  await axe(page, 'found proportions');
  await page.getByLabel('Wool at least, %').fill('120');
  await page.getByLabel('Wool at least, %').press('Enter');
  await expect(page.getByText('A share lies from 0 to 100 %')).toBeVisible();
  await page.getByLabel('Wool at least, %').fill('90');
  await page.getByLabel('Wool at least, %').press('Enter');
  await expect(page.getByText('A share lies from 0 to 100 %')).toBeHidden();
  await page.locator('.tool:visible').getByLabel('At most').selectOption('5');
  await page.getByRole('button', { name: 'Look at every set' }).click();
  await expect(page.locator('.progress-line [role=status]')).toContainText('best so far');
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.locator('.progress-line')).toBeHidden();
  await page.locator('#aim').fill('#a8b0a0');
  await page.locator('#aim').press('Enter');
  await expect(page.locator('#aim')).toHaveValue('#a8b0a0');
  await answers.first().getByRole('button', { name: 'Take it' }).click();
  await settled(page);
  await expect(page.locator('.verdict .words')).toContainText('the same to the eye');
  await page.getByRole('button', { name: 'Dull it' }).click();
  await expect(page.locator('.way')).toHaveCount(3);
  await axe(page, 'dulled');
  await page.getByLabel(/Take off/).fill('50');
  await page.locator('.way').filter({ hasText: 'grey lot' }).getByRole('button', { name: 'Take it' }).click();
  await settled(page);
});

test.describe('with the devices of the sample world', () => {
  test.use({ verb: 'demo' });

  test('a colour is read with the reader, and a lot measured', async ({ page }) => {
    await page.goto('/blends/6');
    await page.getByRole('button', { name: 'Find proportions' }).click();
    await page.getByRole('button', { name: 'read it with the colour reader' }).click();
    await expect(page.getByText('It is the simulated stand-in')).toBeVisible();
    await lotPage(page, 'dawn rose');
    await page.getByRole('button', { name: 'Read it with the colour reader' }).click();
    await expect(page.locator('.facts')).toContainText('a colour reader, with its spectrum');
    await page.getByText('From a file of readings').click();
    await page.locator('#spectra').setInputFiles({ name: 'x.csv', mimeType: 'text/csv', buffer: Buffer.from('nm,R\n400,0.5\n500,0.5') });
    await page.getByRole('button', { name: 'Bring it in' }).click();
    await expect(page.getByText('Wavelengths rise in steps of at most 20 nm')).toBeVisible();
    const nm = Array.from({ length: 31 }, (_, i) => 400 + 10 * i);
    const csv = `sample,${nm}\nrose,${nm.map(() => 0.3)}\nother,${nm.map(() => 0.6)}`;
    const bring = async (name) => {
      await page.locator('#spectra').setInputFiles({ name: 'x.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
      await page.getByLabel('Name of the reading').fill(name);
      await page.getByRole('button', { name: 'Bring it in' }).click();
    };
    await bring('');
    await expect(page.getByText('The file has 2 readings: rose, other')).toBeVisible();
    await bring('rose');
    await expect(page.locator('.facts')).toContainText('#959595');
  });
});

test('a throw of six tide colours from one photo', async ({ page }) => {
  await page.goto('/photos');
  await page.locator('#photo').setInputFiles({ name: 'no.png', mimeType: 'image/png', buffer: Buffer.from('no picture') });
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(page.getByText('This is not a JPEG, PNG or WebP picture')).toBeVisible();
  await page.locator('.photos a').first().click();
  const picture = page.locator('.picture');
  const at = async (x, y) => {
    await expect(picture).toBeVisible();
    const box = await picture.boundingBox();
    await page.mouse.click(box.x + box.width * x, box.y + box.height * y);
  };
  await at(0.105, 0.825); // the grey card, not balanced yet
  await expect(page.locator('.picked h2')).toContainText('brown');
  await page.getByRole('button', { name: 'A click shows the card' }).click();
  await at(0.105, 0.825);
  await expect(page.getByText('Balanced by the card at the mark').first()).toBeVisible();
  await at(0.105, 0.825);
  await expect(page.locator('.picked h2')).toContainText('mid grey');
  // By keyboard: the spot goes up into the water and is read there.
  await picture.focus();
  for (let i = 0; i < 7; i++) await page.keyboard.press('Shift+ArrowUp');
  await page.keyboard.press('+');
  await page.keyboard.press('Enter');
  await expect(page.locator('.picked h2')).toContainText('blue');
  const lots = page.getByLabel('Give this colour to a lot');
  await lots.selectOption(await lots.locator('option', { hasText: 'mussel navy Corriedale' }).getAttribute('value'));
  await page.getByRole('button', { name: 'Give it' }).click();
  await expect(page.getByText('mussel navy Corriedale is #')).toBeVisible();
  await page.getByRole('button', { name: 'Take a palette' }).click();
  await expect(page.locator('.palette li')).toHaveCount(6);
  await axe(page, 'palette');
  await page.getByLabel('Make these blends, in').selectOption('Mudflat fleece');
  await page.getByRole('button', { name: 'Make the blends' }).click();
  await expect(page.locator('.blends li')).toHaveCount(7);
  await page.locator('.blends a').last().click();
  await expect(page.locator('.verdict .words')).not.toHaveText('');
  await page.getByRole('button', { name: 'Find proportions' }).click();
  await page.getByRole('link', { name: 'from a photo' }).click();
  await page.locator('.photos a').first().click();
  await at(0.5, 0.75);
  await page.getByRole('button', { name: /Make it the colour wanted/ }).click();
  await expect(page.locator('#target')).not.toHaveValue('');
});

test('scraps are sorted, moved by key and by drag, and become blends', async ({ page }) => {
  await page.goto('/scraps');
  await page.getByLabel('A new bag').fill('cupboard ends');
  await page.getByRole('button', { name: 'Open it' }).click();
  await page.getByRole('button', { name: 'Put scraps in' }).click();
  await page.getByLabel('Or all lots with at most').fill('62');
  await page.getByRole('button', { name: 'Put these in' }).click();
  const scraps = page.locator('.scrap');
  await expect(scraps.first()).toBeVisible();
  const n = await scraps.count();
  expect(n).toBeGreaterThan(8);
  await page.locator('#sname').fill('teal end');
  await page.locator('#sgrams').fill('2.5');
  await page.getByRole('button', { name: 'Put it in', exact: true }).click();
  await expect(scraps).toHaveCount(n + 1);
  await page.getByRole('button', { name: 'Put scraps in' }).click();
  await page.getByLabel('Sort into').selectOption('4 piles');
  await page.getByRole('button', { name: 'Sort by colour' }).click();
  await expect(page.locator('.pile:not(.none)')).toHaveCount(4);
  const first = page.locator('.pile').first().locator('.scrap').first();
  const name = await first.locator('.what > span').first().textContent();
  await first.focus();
  await page.keyboard.press('6');
  await expect(page.locator('.pile').nth(5)).toContainText(name);
  await expect(page.locator('.pile').nth(5).locator('.scrap')).toBeFocused();
  await page.locator('.pile').nth(5).locator('.scrap').dragTo(page.locator('.pile').nth(4));
  await expect(page.locator('.pile').nth(4)).toContainText(name);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('.pile').nth(5)).toContainText(name);
  await axe(page, 'piles');
  await page.reload();
  await expect(page.locator('.pile').nth(5)).toContainText(name);
  await page.getByLabel('Make a blend of each pile, in').selectOption('Samphire mitts');
  await page.getByRole('button', { name: 'Make the blends' }).click();
  await expect(page.locator('.blends li')).toHaveCount(7);
});

test('calibration: record, switch on, change, bin', async ({ page }) => {
  await page.goto('/calibration');
  await expect(page.getByText('on samples left out')).toBeVisible();
  await page.getByRole('button', { name: 'Predict by my samples' }).click();
  await expect(page.getByText('Predictions follow your samples now')).toBeVisible();
  await page.goto('/blends/6');
  await expect(page.getByText('Calibrated by your own samples')).toBeVisible();
  await page.goto('/calibration');
  await page.getByRole('button', { name: 'Record it' }).click();
  await expect(page.getByText('Give the sample a name')).toBeVisible();
  await page.getByLabel('Name').fill('again');
  await page.getByLabel('Colour it had', { exact: true }).fill('#8b9a8d');
  await page.getByRole('button', { name: 'Record it' }).click();
  await expect(page.getByRole('link', { name: 'again' })).toBeVisible();
  await page.getByRole('link', { name: 'again' }).click();
  await page.getByLabel('Colour it had', { exact: true }).fill('#8b9a90');
  await page.getByRole('button', { name: 'Save the sample' }).click();
  await page.getByRole('row', { name: /again/ }).getByRole('button', { name: 'To the bin' }).click();
  await expect(page.getByText('The sample is in the bin')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: 'again' })).toBeVisible();
});

test('two windows on one gradient do not overwrite each other', async ({ page, context }) => {
  await page.goto('/gradients/1');
  const other = await context.newPage();
  await other.goto('/gradients/1');
  await other.getByRole('button', { name: 'Turn round' }).click();
  await settled(other);
  await page.getByLabel('Name of stop 1').fill('the deep');
  await page.getByLabel('Name of stop 1').press('Enter');
  await expect(page.getByText('was changed in another window')).toBeVisible();
  await expect(page.getByLabel('Name of stop 1')).toHaveValue('the deep');
  await axe(page, 'conflict');
  await page.getByRole('button', { name: 'Take the other' }).click();
  await expect(page.getByLabel('Name of stop 4')).toHaveValue('mussel navy Corriedale');
  await page.getByRole('button', { name: 'Undo' }).click();
  await settled(page);
  await expect(page.getByLabel('Name of stop 1')).toHaveValue('the deep');
});

test('a gradient by keyboard alone', async ({ page }) => {
  await page.goto('/makings/2');
  await tabTo(page, page.getByLabel('A new gradient'));
  await page.keyboard.type('red tips to sand');
  await page.keyboard.press('Enter');
  await expect(page.getByText('No stop yet')).toBeVisible();
  await tabTo(page, page.getByRole('button', { name: 'Add a stop' }));
  for (const name of ['samphire red', 'samphire green', 'wet sand', 'lichen']) {
    await page.locator('#find').or(page.getByRole('button', { name: 'Add a stop' })).first().focus();
    if (!(await page.locator('#find').isVisible())) await page.keyboard.press('Enter');
    await expect(page.locator('#find')).toBeVisible();
    await page.locator('#find').focus();
    await page.keyboard.press('Control+A');
    await page.keyboard.type(name);
    await page.keyboard.press('Tab');
    await expect(page.locator('.picks button').first()).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(page.locator('.stopname').last()).toHaveValue(new RegExp(name));
    await settled(page);
  }
  await expect(page.locator('.stops li')).toHaveCount(4);
  await page.keyboard.press('Escape');
  const names = () => page.locator('.stopname').evaluateAll((els) => els.map((el) => el.value));
  const before = await names();
  await tabTo(page, page.locator('.stopname').first());
  await page.keyboard.press('Alt+ArrowDown');
  await expect(page.locator('.stopname').nth(1)).toHaveValue(before[0]);
  await expect(page.locator('.stopname').nth(1)).toBeFocused();
  await tabTo(page, page.getByRole('button', { name: 'Smoothest order' }));
  await page.keyboard.press('Enter');
  await settled(page);
  const sum = async () => (await page.locator('.ladder .jump .num').allTextContents()).reduce((a, t) => a + parseFloat(t), 0);
  const smooth = await sum();
  await page.keyboard.press('Control+z');
  await expect.poll(sum).toBeGreaterThanOrEqual(smooth - 0.3);
  await tabTo(page, page.getByRole('radio', { name: /^Thirds/ }));
  await page.keyboard.press('ArrowDown');
  await settled(page);
  await tabTo(page, page.getByLabel('Bridges', { exact: true }));
  await page.keyboard.press('Control+A');
  await page.keyboard.type('99');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Between two stops there are 0 to 24 bridges')).toBeVisible();
  await expect(page.getByLabel('Bridges', { exact: true })).toHaveValue('99');
  await page.keyboard.press('Control+A');
  await page.keyboard.type('3');
  await page.keyboard.press('Enter');
  await expect(page.locator('.ladder li')).toHaveCount(4 + 3 * 3);
});

for (const width of [820, 390]) test(`the tools fit a window ${width} wide`, async ({ page }) => {
  await page.setViewportSize({ width, height: 900 });
  const fits = async (what) => {
    const over = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    expect(over, what).toBeLessThanOrEqual(0);
  };
  await page.goto('/blends/6');
  await page.getByRole('button', { name: 'Find proportions' }).click();
  await expect(page.locator('.tool:visible .recipes li').first()).toBeVisible();
  await fits('find');
  await page.locator('.tool:visible').getByRole('button', { name: 'Back to the blend' }).click();
  await page.getByRole('button', { name: 'Mend this blend' }).click();
  await page.getByRole('button', { name: 'a little too dark' }).click();
  await expect(page.locator('.tool:visible .recipes li').first()).toBeVisible();
  await fits('mend');
  await page.locator('.tool:visible').getByRole('button', { name: 'Back to the blend' }).click();
  await page.getByRole('button', { name: 'Dull it' }).click();
  await expect(page.locator('.way')).toHaveCount(3);
  await fits('dull');
  await page.goto('/scraps/1');
  await page.getByRole('button', { name: 'Put scraps in' }).click();
  await page.getByRole('button', { name: 'Change first light' }).click();
  await page.getByLabel('Weight of the scrap').fill('none');
  await page.getByLabel('Weight of the scrap').press('Enter');
  await expect(page.getByText('“none” is not a number')).toBeVisible();
  await fits('scraps');
  await page.goto('/photos/1');
  await page.getByRole('button', { name: 'Take a palette' }).click();
  await expect(page.locator('.palette li')).toHaveCount(6);
  await fits('palette');
});
