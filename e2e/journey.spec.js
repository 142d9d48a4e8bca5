import { test, expect, settled, tabTo } from './world.js';

const lots = [
  { name: 'grey-blue Corriedale', kind: 'Corriedale', grams: '120', hex: '#6b8799' },
  { name: 'undyed Romney', kind: 'Romney', grams: '80,5', hex: '#d9cfb9' },
];

const narrow = { width: 390, height: 844 };

for (const size of [null, narrow]) test(`from an empty shelf to a weighed batt, by mouse${size ? ', on a phone' : ''}`, async ({ page }) => {
  if (size) await page.setViewportSize(size);
  await page.goto('/');
  await expect(page.getByText('A making is one piece of work')).toBeVisible();
  await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Shelf' }).click();
  await expect(page.getByText('Weigh a bag of fibre')).toBeVisible();
  for (const lot of lots) {
    await page.goto('/lots/new');
    await page.getByLabel('Name').fill(lot.name);
    await page.getByLabel('Kind of fibre').selectOption(lot.kind);
    await page.getByLabel('How much, in g').fill(lot.grams);
    await page.getByLabel('Colour 1', { exact: true }).fill(lot.hex);
    await page.getByRole('button', { name: 'Put it on the shelf' }).click();
    await expect(page.getByRole('heading', { name: lot.name })).toBeVisible();
  }
  await expect(page.locator('.answer')).toContainText('80.5');

  await page.getByRole('link', { name: 'Makings' }).click();
  await page.getByLabel('A new making').fill('Tide Table throw');
  await page.getByRole('button', { name: 'Start it' }).click();
  await page.getByLabel('A new blend').fill('Slack');
  await page.getByRole('button', { name: 'Start it' }).click();

  await page.getByRole('button', { name: 'Add fibre' }).click();
  await page.getByLabel('From the shelf').fill('corri');
  await page.getByRole('button', { name: /grey-blue Corriedale/ }).first().click();
  await page.getByLabel('From the shelf').fill('romney');
  await expect(page.locator('.picks')).not.toContainText('Corriedale');
  await page.locator('.picks button').click();
  await expect(page.locator('.rows li')).toHaveCount(2);
  await page.getByLabel('Name', { exact: true }).fill('a little teal');
  await page.locator('#buykind').selectOption('Merino, medium');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page.locator('.rows li')).toHaveCount(3);
  await page.getByRole('button', { name: 'Done adding' }).click();

  await page.getByLabel('a little teal in percent').fill('10');
  await page.getByLabel('a little teal in percent').press('Enter');
  await settled(page);
  await page.getByRole('button', { name: 'a little teal: lock the share' }).click();
  await expect(page.getByRole('slider')).toHaveCount(2);
  await page.locator('.bar').evaluate((el) => el.scrollIntoView({ block: 'center', behavior: 'instant' }));
  const edge = await page.getByRole('slider').first().boundingBox();
  const bar = await page.locator('.bar').boundingBox();
  await page.mouse.move(edge.x + edge.width / 2, edge.y + 20);
  await page.mouse.down();
  await page.mouse.move(bar.x + bar.width * 0.3, edge.y + 20, { steps: 6 });
  await page.mouse.move(bar.x + bar.width * 0.6, edge.y + 20, { steps: 6 });
  await page.mouse.up();
  await settled(page);
  await expect(page.getByLabel('grey-blue Corriedale in percent')).toHaveValue(/^(59|60)/);
  await expect(page.getByLabel('a little teal in percent')).toHaveValue('10');

  const field = page.getByLabel('grey-blue Corriedale in grams');
  await field.fill('36');
  await field.press('Enter');
  await expect(page.getByLabel('grey-blue Corriedale in percent')).toHaveValue('60');
  await page.locator('#target').fill('#7f9296');
  await page.locator('#target').press('Enter');
  await expect(page.locator('.verdict')).toContainText('than you asked for');
  await expect(page.locator('.asks')).toContainText('held by');
  await expect(page.locator('.sure')).toContainText('±');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('.verdict')).toBeHidden();
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(page.locator('.verdict')).toBeVisible();
  await settled(page);

  await page.getByRole('link', { name: 'Weigh it out' }).click();
  await page.getByLabel('Batts, boards or pairs').fill('2');
  await page.getByLabel('Finished weight of each, g').fill('30');
  await expect(page.locator('#plan thead th')).toHaveText(['Fibre', '1', '2', 'All', 'Share when finished']);
  await page.getByRole('button', { name: 'Keep this weigh-out' }).click();
  const cells = await page.locator('.grid tbody tr').first().locator('.cell').allInnerTexts();
  expect(cells).toHaveLength(2);
  await page.getByRole('link', { name: 'To the scale' }).click();

  await expect(page.locator('.now')).toHaveText('grey-blue Corriedale');
  const wanted = Number(await page.locator('.huge').innerText());
  await page.locator('#said').fill(String((wanted + 1).toFixed(1)));
  await page.getByRole('button', { name: /Weighed, next/ }).click();
  await expect(page.locator('.policy')).toHaveCount(3);
  await expect(page.locator('.policy').first()).toContainText('Keep the shares');
  await page.locator('.policy').first().click();
  await expect(page.locator('.saved')).toContainText('Kept');
  await expect(page.locator('.bowl li').first()).toContainText((wanted + 1).toFixed(1));
  await page.goto('/shelf');
  await expect(page.locator('.wall')).toContainText(`${(120 - wanted - 1).toFixed(1)} g`);
  await page.goBack();
  await page.getByRole('button', { name: /Undo the last weighing/ }).click();
  await expect(page.locator('.now')).toHaveText('grey-blue Corriedale');
  for (let i = 0; i < 6; i++) {
    await page.locator('#said').fill(await page.locator('.huge').innerText());
    await page.keyboard.press('Enter');
    await expect(page.locator('.bowl .sub').last()).toHaveText(`${i + 1} of 6 weighed`);
  }
  await expect(page.getByText('All weighed', { exact: true })).toBeVisible();
});

test('the whole of it by keyboard alone', async ({ page }) => {
  const type = async (locator, text) => {
    await tabTo(page, locator);
    await page.keyboard.press('Control+A');
    await page.keyboard.type(text);
  };
  const press = async (locator) => {
    await tabTo(page, locator);
    await page.keyboard.press('Enter');
  };
  await page.goto('/lots/new');
  await type(page.getByLabel('Name'), 'saltmarsh olive');
  await tabTo(page, page.getByLabel('Kind of fibre'));
  await page.keyboard.type('Corriedale');
  await type(page.getByLabel('How much, in g'), '90');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'saltmarsh olive' })).toBeVisible();
  await press(page.getByRole('link', { name: 'Makings' }));
  await type(page.getByLabel('A new making'), 'Mitts');
  await page.keyboard.press('Enter');
  await type(page.getByLabel('A new blend'), 'Samphire');
  await page.keyboard.press('Enter');
  await press(page.getByRole('button', { name: 'Add fibre' }));
  await expect(page.getByLabel('From the shelf')).toBeFocused();
  await press(page.locator('.picks button').first());
  await expect(page.locator('.rows li')).toHaveCount(1);
  await type(page.locator('#buyname'), 'rust');
  await press(page.getByRole('button', { name: 'Add it' }));
  await expect(page.locator('.rows li')).toHaveCount(2);
  await page.keyboard.press('Escape');
  await tabTo(page, page.getByRole('slider'), 160);
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('ArrowRight');
  await settled(page);
  await page.keyboard.press('Alt+ArrowRight');
  await settled(page);
  // From a half of 60 g by a tenth, a hundredth and a step of 0.1 g.
  await expect(page.getByLabel('rust in grams')).toHaveValue('23.3');
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('rust in grams')).toHaveValue('23.4');
  await press(page.getByRole('button', { name: 'rust: lock the share' }));
  await settled(page);
  await press(page.getByRole('link', { name: 'Weigh it out' }));
  await press(page.getByRole('button', { name: 'Keep this weigh-out' }));
  await press(page.getByRole('link', { name: 'To the scale' }));
  await expect(page.locator('#said')).toBeFocused();
  const wanted = Number(await page.locator('.huge').innerText());
  await page.keyboard.type(String(wanted + 2));
  await page.keyboard.press('Enter');
  await expect(page.locator('.policy').first()).toBeFocused();
  await page.keyboard.press('t');
  await expect(page.locator('.saved')).toContainText('Kept');
  await expect(page.locator('.now')).toHaveText('rust');
  await expect(page.locator('#said')).toBeFocused();
  await page.keyboard.type(await page.locator('.huge').innerText());
  await page.keyboard.press('Enter');
  await expect(page.getByText('All weighed', { exact: true })).toBeVisible();
});
