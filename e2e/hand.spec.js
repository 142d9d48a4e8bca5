// Handing on: a recipe from one studio to another with another shelf, everything out and in again, a palette.
import { test, expect, axe, late, opened, start, tabTo } from './world.js';

test.use({ verb: 'world', expected: ['status of 422'] });

// saved is the file that a press saves, as a name and its bytes.
async function saved(page, press) {
  const coming = page.waitForEvent('download');
  await press();
  const file = await coming;
  const read = await file.createReadStream();
  const parts = [];
  for await (const part of read) parts.push(part);
  return { name: file.suggestedFilename(), mimeType: 'application/octet-stream', buffer: Buffer.concat(parts) };
}

test('a recipe is given away, opens alone, and is made on another shelf, by keys, late, on a phone', async ({ page, browser }) => {
  await opened(page, '/blends/3');
  await page.getByRole('link', { name: 'Give it away' }).click();
  await page.getByLabel('Given by').fill('Nan');
  await page.getByLabel('A word along with it').fill('Card it slowly.');
  await page.getByLabel('For how much').fill('heavy');
  await page.getByRole('button', { name: 'Save it as a page' }).click();
  await expect(page.getByRole('alert')).toContainText('not a number');
  await expect(page.getByLabel('Given by')).toHaveValue('Nan');
  await axe(page, 'a recipe to give');
  await page.getByLabel('For how much').fill('60');
  const file = await saved(page, () => page.getByRole('button', { name: 'Save it as a page' }).click());
  expect(file.name).toBe('Low Water.html');
  const alone = await (await browser.newContext({ javaScriptEnabled: false, offline: true })).newPage();
  await alone.setContent(file.buffer.toString());
  await expect(alone.getByRole('heading', { level: 1 })).toHaveText('Low Water');
  await expect(alone.locator('tbody')).toContainText('27.0 g');
  await expect(alone.getByRole('img', { name: /Its layers/ })).toBeVisible();

  const other = await start('serve');
  const there = await (await browser.newContext({ baseURL: other.url, viewport: { width: 390, height: 844 } })).newPage();
  await there.goto('/shelf/lines');
  await there.getByLabel('Lines').fill('100 g dark brown shetland roving\n60 g beige romney top\n40 g fawn alpaca top');
  await there.getByRole('button', { name: 'Read them' }).click();
  await there.getByRole('button', { name: 'Put them on the shelf' }).click();
  await there.goto('/makings');
  await tabTo(there, there.getByRole('link', { name: 'A recipe from elsewhere' }));
  await there.keyboard.press('Enter');
  await there.getByRole('button', { name: 'Look at it' }).click();
  await expect(there.getByRole('alert')).toContainText('Choose the file');
  await there.getByLabel(/^The file/).setInputFiles(file);
  await late(there, 400);
  await tabTo(there, there.getByRole('button', { name: 'Look at it' }));
  await there.keyboard.press('Enter');
  await expect(there.getByRole('heading', { level: 1 })).toHaveText('Low Water');
  await expect(there.getByText('given by Nan')).toBeVisible();
  await expect(there.getByText('another kind: Romney')).toBeVisible();
  await axe(there, 'a recipe that was given');
  expect(await there.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
  await there.getByLabel('What stands in for storm slate Gotland').selectOption({ label: 'to buy, as it is in the recipe' });
  await there.getByLabel('For how much').fill('50');
  await there.getByRole('button', { name: 'Look at it so' }).click();
  await expect(there.getByText(/To buy:.*10\.0\sg of storm slate Gotland/)).toBeVisible();
  await there.getByRole('button', { name: 'Make the blend' }).dblclick();
  await expect(there.getByRole('heading', { level: 1 })).toHaveText('Low Water');
  await opened(there, new URL(there.url()).pathname);
  await expect(there.locator('#total')).toHaveValue('50');
  await there.goto('/makings');
  await expect(there.locator('.makings > li')).toHaveCount(1);
  await there.context().close();
  await alone.context().close();
  await other.stop();
});

test('everything goes out in open forms, and another studio begins with it; a palette becomes blends', async ({ page, browser }) => {
  await page.goto('/workshop');
  await page.getByRole('link', { name: 'Take it with you' }).click();
  await axe(page, 'out, and in again');
  const list = await saved(page, () => page.getByRole('link', { name: 'Blends', exact: true }).click());
  expect(list.buffer.toString()).toMatch(/^making,blend_number,blend,/);
  const palette = await saved(page, () => page.getByRole('link', { name: 'for drawing programs' }).click());
  const all = await saved(page, () => page.getByRole('link', { name: 'Take everything' }).click());
  expect(all.name).toBe('fair-tangle.zip');
  await page.getByLabel('The palette').setInputFiles({ ...palette, name: 'few.gpl', buffer: Buffer.from('GIMP Palette\n165 81 47 rust\n47 93 155 blue\n') });
  await page.getByLabel('In', { exact: true }).selectOption('Samphire mitts');
  await page.getByRole('button', { name: 'Make a blend for each colour' }).dblclick();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Samphire mitts');
  await expect(page.getByRole('link', { name: /^rust/ }).first()).toBeVisible();

  const other = await start('serve');
  const there = await (await browser.newContext({ baseURL: other.url })).newPage();
  await there.goto('/out');
  await there.getByRole('link', { name: 'Bring everything in' }).click();
  await there.getByLabel('The zip of a copy').setInputFiles(all);
  await there.getByRole('button', { name: 'Bring it in' }).click();
  await there.getByRole('button', { name: 'Begin with it' }).first().click();
  await expect(there.getByText('The program has begun again')).toBeVisible();
  const again = await saved(there, async () => {
    await there.goto('/out');
    await there.getByRole('link', { name: 'Blends', exact: true }).click();
  });
  expect(again.buffer.equals(list.buffer)).toBe(true);
  await there.context().close();
  await other.stop();
});

test('a spreadsheet of thirty lots comes in, its columns recognised, by keys', async ({ page }) => {
  await page.goto('/out');
  await page.getByRole('link', { name: 'A spreadsheet' }).click();
  const rows = Array.from({ length: 30 }, (_, i) => `bag ${i + 1},${['corriedale top', 'romney roving', 'mystery batt'][i % 3]},${['rust', 'grey-blue', 'undyed'][i % 3]},${i + 1},attic`);
  await page.getByLabel('CSV file').setInputFiles({
    name: 'stash.csv', mimeType: 'text/csv', buffer: Buffer.from(['What I call it,Fiber type,Colourway,Ounces,Where', ...rows].join('\n')),
  });
  await page.getByRole('button', { name: 'Look at it first' }).press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('What its columns say');
  await axe(page, 'the columns of a table');
  await expect(page.getByLabel('What Ounces says')).toHaveValue('weight oz');
  await page.getByLabel('What What I call it says').selectOption('');
  await page.getByLabel('What Fiber type says').selectOption('');
  await page.getByRole('button', { name: 'Read them so' }).press('Enter');
  await expect(page.getByRole('alert')).toContainText('Say of one column');
  await expect(page.getByLabel('What Ounces says')).toHaveValue('weight oz');
  await page.getByLabel('What What I call it says').selectOption('its name');
  await page.getByLabel('What Fiber type says').selectOption({ label: 'what it is: kind, preparation' });
  await page.getByRole('button', { name: 'Read them so' }).press('Enter');
  await expect(page.getByLabel('Name of line 30')).toHaveValue('bag 30');
  await page.getByRole('button', { name: 'Put them on the shelf' }).dblclick();
  await expect(page.getByText('bag 30')).toBeVisible();
  await page.goto('/shelf?q=bag');
  await expect(page.getByText('30 lots found')).toBeVisible();
});

test('a price from a blend, forty labels with it, and one press notes what was sold, by keys on a phone', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await opened(page, '/blends/3');
  await page.getByRole('link', { name: 'Its price' }).click();
  await page.getByLabel('An hour of yours').fill('much');
  await page.getByLabel('Tax on top').fill('19');
  await page.getByRole('button', { name: 'Work it out' }).press('Enter');
  await expect(page.getByRole('alert')).toContainText('not a number');
  await expect(page.getByLabel('Tax on top')).toHaveValue('19');
  await page.getByLabel('An hour of yours').fill('18');
  await page.getByLabel('Pieces').fill('40');
  await page.getByLabel('Each weighs').fill('30');
  await page.getByLabel('Minutes for all').fill('600');
  await page.getByRole('button', { name: 'Keep these for next time' }).press('Enter');
  await expect(page.getByRole('status')).toHaveText('Saved.');
  await expect(page.getByLabel('Tax on top')).toHaveValue('19');
  await expect(page.getByLabel('Pieces')).toHaveValue('40');
  await axe(page, 'a price');
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
  const price = await page.locator('.answer .big').innerText();
  await page.getByRole('link', { name: 'Labels with this price' }).click();
  await expect(page.locator('.labeledge')).toHaveCount(40);
  await expect(page.locator('.labelcode')).toHaveCount(40);
  await expect(page.locator('.labeltext').nth(39)).toContainText(price);
  await page.goBack();
  await tabTo(page, page.getByRole('button', { name: `Sold for ${price}` }));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('cell', { name: price })).toBeVisible();
  await axe(page, 'what went');
  await page.getByRole('button', { name: 'To the bin' }).click();
  await expect(page.getByText('Nothing went from the table yet')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('cell', { name: price })).toBeVisible();
});

// paper is how many pages a page is on paper, and how large, in mm.
async function paper(page) {
  const pdf = (await page.pdf({ preferCSSPageSize: true })).toString('latin1');
  const [, w, h] = pdf.match(/\/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/).map(Number);
  return { pages: Number(pdf.match(/\/Count (\d+)/)[1]), w: (w * 25.4) / 72, h: (h * 25.4) / 72 };
}

test('cards are one page of their paper, and pictures are kept, by keys', async ({ page }) => {
  await opened(page, '/blends/6');
  await page.getByRole('link', { name: 'Recipe card' }).click();
  await page.getByLabel('Paper').selectOption('A5');
  await page.getByLabel('with a place for the lock').check();
  await page.getByRole('button', { name: 'Show' }).press('Enter');
  await expect(page.getByText('the lock itself')).toBeVisible();
  await expect(page.getByText('joins at pass 2')).toHaveCount(2);
  await axe(page, 'a recipe card');
  for (const [size, w, h] of [['A6', 105, 148], ['A5', 148, 210], ['A4', 210, 297]]) {
    for (const path of ['/blends/6/card', '/runs/1/card']) {
      await page.goto(`${path}?size=${size}&lock=yes`);
      const got = await paper(page);
      expect(got.pages, path + size).toBe(1);
      expect(Math.abs(got.w - w), path + size).toBeLessThan(0.2);
      expect(Math.abs(got.h - h), path + size).toBeLessThan(0.2);
    }
  }
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/blends/6');
  await page.getByRole('link', { name: 'Pictures' }).click();
  await axe(page, 'pictures to keep');
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
  const svg = await saved(page, () => page.getByRole('link', { name: 'Save SVG of Bed' }).press('Enter'));
  expect(svg.name).toBe('Slack, bed.svg');
  expect(svg.buffer.toString()).toMatch(/^<svg xmlns=.*<\/svg>$/);
  const png = await saved(page, () => page.getByRole('button', { name: 'Save PNG of Share bar' }).press('Enter'));
  expect(png.buffer.toString('latin1', 1, 4)).toBe('PNG');
  expect([png.buffer.readUInt32BE(16), png.buffer.readUInt32BE(20)]).toEqual([2400, 320]);
});

test('a skein has its own label; texts of any script stay inside it, and what does not fit is said', async ({ page }) => {
  await page.goto('/makings/3/skeins/new');
  await page.getByLabel('or its length, m').fill('150');
  await page.getByLabel('Weight, g', { exact: true }).fill('60');
  await page.getByRole('button', { name: 'Save the skein' }).click();
  await page.getByRole('link', { name: 'Label', exact: true }).click();
  const label = page.locator('.labeltext');
  await expect(label).toContainText(/150\sm, 250\sm in 100\sg/);
  await page.getByLabel('Name').fill('صوف الخريف 🧶🧶 ขนแกะฤดูใบไม้ร่วง');
  await page.getByLabel('One line more').fill('ขนแกะ '.repeat(24));
  await page.getByLabel('a code that opens').check();
  await page.getByRole('button', { name: 'Show them so' }).press('Enter');
  await expect(page.locator('.labelcode')).toHaveCount(1);
  const inside = () => page.locator('.labeltext').evaluate((t) => t.lastElementChild.getBoundingClientRect().bottom <= t.getBoundingClientRect().bottom);
  await expect.poll(inside).toBe(true);
  await expect(page.getByRole('alert')).toHaveCount(0);
  await axe(page, 'the label of a skein');
  await page.getByLabel('One line more').fill('very long '.repeat(100));
  await page.getByRole('button', { name: 'Show them so' }).press('Enter');
  await expect(page.getByRole('alert')).toContainText('Not all of it fits');
});
