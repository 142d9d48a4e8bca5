// Colours together: the shelf spread out, what lies around a lot, what goes together.
import { test, expect, axe, late, opened, settled, tabTo } from './world.js';

test.use({ verb: 'world', expected: ['status of 422'] });

test('a blend begins at the table: what goes with a lot, picked, muddy or not, by keys', async ({ page }) => {
  await page.goto('/lots/1');
  await page.getByRole('link', { name: 'What goes with its colour' }).click();
  await expect(page.getByRole('heading', { name: 'Colours together' })).toBeVisible();
  await expect(page.locator('.spread button.held')).toHaveCount(1);
  await page.getByRole('button', { name: 'both beside the opposite' }).click();
  await expect(page.getByRole('heading', { name: /Among the/ })).toHaveCount(2);
  const first = page.locator('.laidlist li').first();
  const name = await first.locator('.link').innerText();
  await tabTo(page, first.getByRole('button', { name: `Pick ${name}` }), 200);
  await page.keyboard.press('Enter');
  await expect(page.getByText('Pick another to see what they make together.')).toBeVisible();
  await page.getByRole('button', { name: 'Pick grey-blue Corriedale' }).first().click();
  await expect(page.locator('.makes')).toContainText('In equal parts, mixed even');
  await expect(page.locator('.spread button.taken')).toHaveCount(2);
  await axe(page, 'colours together');
  for (const width of [820, 390]) {
    await page.setViewportSize({ width, height: 844 });
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(width);
  }
  await page.getByLabel('Name of the blend').fill('From the table');
  await page.getByRole('button', { name: 'Start a blend of them' }).dblclick(); // fast hands
  await expect(page).toHaveURL(/\/blends\/\d+/);
  await expect(page.locator('#blendname, .titlefield').first()).toHaveValue('From the table');
  await page.goto('/makings');
  await expect(page.getByRole('link', { name: 'From the table', exact: true })).toHaveCount(1);
});

test('a set that goes together is picked at one press, and put back', async ({ page }) => {
  await page.goto('/colours');
  await expect(page.getByRole('heading', { name: 'These go together' })).toBeVisible();
  const set = page.locator('.goset').first();
  const n = await set.locator('li').count();
  expect(n).toBeGreaterThanOrEqual(3);
  await set.getByRole('button', { name: 'Pick these' }).click();
  await expect(page.locator('.spread button.taken')).toHaveCount(n);
  await page.getByRole('button', { name: 'Put all back' }).click();
  await expect(page.locator('.spread button.taken')).toHaveCount(0);
  await page.goto('/colours?scheme=pentagon&lot=1');
  await expect(page.locator('.wrong')).toContainText('A scheme is');
});

test('a range of five from one blend becomes blends of its making, by keys', async ({ page }) => {
  await page.goto('/blends/2');
  await page.getByRole('link', { name: 'Tints and shades' }).click();
  await expect(page.locator('.rangerow li')).toHaveCount(5);
  await page.getByLabel('Tints').fill('99');
  await page.getByLabel('Tints').press('Enter');
  await expect(page.locator('.wrong', { hasText: 'steps to each side' })).toBeVisible();
  await expect(page.getByLabel('Tints')).toHaveValue('99');
  await page.getByLabel('Tints').fill('3');
  await page.getByLabel('Shades').fill('1');
  await page.getByLabel(/^Each weighs/).fill('30');
  await page.getByLabel(/^Each weighs/).press('Enter');
  await expect(page.locator('.rangerow li')).toHaveCount(5);
  await expect(page.locator('.headline')).toContainText('30.0');
  await axe(page, 'tints and shades');
  for (const width of [820, 390]) {
    await page.setViewportSize({ width, height: 844 });
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(width);
  }
  await page.getByRole('button', { name: 'Make them blends of this making' }).dblclick(); // fast hands
  await expect(page).toHaveURL(/\/makings\/2/);
  await expect(page.getByRole('link', { name: /^Samphire, tint 1 / })).toHaveCount(1);
  await expect(page.getByRole('link', { name: /^Samphire, shade 1 / })).toHaveCount(1);
});

test('a family of six around one base: ordered, seen in grey, its base changed in all at once', async ({ page }) => {
  const { id } = await (await page.request.post('/api/v1/makings', { data: { name: 'Six panels' } })).json();
  for (let i = 0; i < 6; i += 1) {
    await page.request.post(`/api/v1/makings/${id}/blends`, {
      data: { name: `Panel ${i + 1}`, total_g: 40, passes: 2, target: '', components: [{ lot_id: 1, parts: 2 }, { lot_id: 5 + i, parts: 1 }] },
    });
  }
  await page.goto(`/makings/${id}`);
  await page.getByRole('link', { name: 'Side by side' }).click();
  await expect(page.locator('.familybar rect')).toHaveCount(6);
  await expect(page.getByText(/^In all of them: grey-blue Corriedale/)).toBeVisible();
  await tabTo(page, page.getByRole('button', { name: 'Panel 2 earlier' }), 200);
  await page.keyboard.press('Enter');
  await expect(page.locator('.wholerow li').first()).toContainText('Panel 2');
  await page.getByRole('button', { name: /in grey/ }).click();
  await expect(page.locator('.wholerow li').first()).toContainText('Panel 2'); // the order stays
  await expect(page.getByRole('button', { name: 'In colour' })).toBeVisible();
  await axe(page, 'side by side');
  for (const width of [820, 390]) {
    await page.setViewportSize({ width, height: 844 });
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(width);
  }
  await page.getByLabel('to', { exact: true }).selectOption({ label: await page.locator('#to option', { hasText: 'undyed Romney' }).innerText() });
  await page.getByRole('button', { name: 'Change it everywhere' }).dblclick(); // fast hands
  await expect(page.getByText(/^In all of them: undyed Romney/)).toBeVisible();
});

test('a share that is moved is seen among the other blends of its making', async ({ page }) => {
  await opened(page, '/blends/3');
  const here = page.locator('.amongothers .here rect');
  const before = await here.getAttribute('fill');
  await expect(page.locator('.amongothers svg')).toHaveCount(7);
  const edge = page.getByRole('slider').first();
  await edge.focus();
  for (let n = 0; n < 8; n += 1) await edge.press('Shift+ArrowRight');
  await expect(here).not.toHaveAttribute('fill', before);
  await settled(page);
  const after = await here.getAttribute('fill');
  await page.goto('/makings/3/family');
  await expect(page.locator(`.familybar rect[fill="${after}"]`).first()).toBeAttached();
});

test('a bit of scrap gets its colours faster than answers that are 400 ms late', async ({ page }) => {
  await page.goto('/scraps/1');
  const { quiet } = await late(page, 400);
  await page.getByRole('button', { name: /^Change / }).first().click();
  const edit = page.locator('.scrapedit');
  const more = edit.getByRole('button', { name: 'One colour more' });
  await more.click();
  await more.click();
  await quiet();
  await expect(edit.locator('.picker')).toHaveCount(3);
  await edit.getByLabel('Colour 1').fill('#aa3322');
  await edit.getByLabel('Colour 3').fill('#2233aa'); // before the answer to the first
  await quiet();
  await page.reload();
  await page.getByRole('button', { name: /^Change / }).first().click();
  await expect(edit.getByLabel('Colour 1')).toHaveValue('#aa3322');
  await expect(edit.getByLabel('Colour 3')).toHaveValue('#2233aa');
});

test('scraps from one photo become a bag: two found, one clicked, all of them named by keys', async ({ page }) => {
  await page.goto('/photos');
  const url = await page.evaluate(() => {
    const c = document.createElement('canvas');
    [c.width, c.height] = [900, 400];
    const at = c.getContext('2d');
    at.fillStyle = '#d2cdc2';
    at.fillRect(0, 0, 900, 400);
    [['#8a2f3b', 150, 90], ['#2e4a6b', 450, 90], ['#d6d0bf', 750, 60]].forEach(([hex, x, r]) => { // the last is hardly seen
      at.fillStyle = hex;
      at.beginPath();
      at.ellipse(x, 200, r, r, 0, 0, 7);
      at.fill();
    });
    return c.toDataURL('image/png');
  });
  await page.locator('#photo').setInputFiles({ name: 'ends.png', mimeType: 'image/png', buffer: Buffer.from(url.split(',')[1], 'base64') });
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await page.getByRole('link', { name: 'Find the tufts' }).click();
  await expect(page.locator('.lines tbody tr')).toHaveCount(2);
  await page.getByLabel('All of them are').selectOption('romney');
  await page.getByRole('button', { name: 'Find them so' }).click();
  const found = page.url();
  await page.getByLabel('Weight of line 1').fill('4.5');
  const box = await page.locator('.tuftphoto img').boundingBox();
  await page.mouse.dblclick(box.x + (750 / 900) * box.width, box.y + box.height / 2); // pressed twice it is one
  await expect(page.locator('.lines tbody tr')).toHaveCount(3);
  await expect(page.locator('.tuftphoto li')).toHaveCount(3);
  await expect(page.getByLabel('Weight of line 1')).toHaveValue('4.5');
  await expect(page.getByLabel('Kind of line 3')).toHaveValue('romney');
  await axe(page, 'a spot that was clicked');
  await page.getByLabel('Weight of line 2').fill('6');
  await page.getByLabel('Weight of line 2').press('Enter'); // puts them on the shelf, and would take no spot
  await expect(page.getByText('3 lots came together.')).toBeVisible();
  await page.getByRole('link', { name: 'Weigh them, one after the other' }).click();
  await expect(page.locator('.stocklist li')).toHaveCount(3);
  await expect(page.locator('.stocklist li').first()).toContainText('deep red');
  await page.goBack();
  await page.getByRole('button', { name: 'Put all of them into the bin' }).click();
  await expect(page.getByText('All of them lie in the bin now.')).toBeVisible();
  await page.goto(found);
  for (const n of [1, 2]) await page.getByLabel(`Weight of line ${n}`).fill(`${n}`);
  await page.getByLabel('across').fill('83.3');
  await page.getByLabel('down').fill('50');
  await page.getByRole('button', { name: 'Add this spot' }).click();
  await page.getByLabel('Weight of line 3').fill('2');
  await page.getByRole('button', { name: 'Put them into a bag' }).click();
  await expect(page.locator('.scrap')).toHaveCount(3);
  await expect(page.locator('#bagname')).toHaveValue(/ends/);
});

// A shelf from one photo: keys and clicks are counted. Each bag takes its grams, the rest is found.
test('six bags from one photo, then changed alike', async ({ page }) => {
  await page.goto('/photos');
  const url = await page.evaluate(() => {
    const c = document.createElement('canvas');
    [c.width, c.height] = [900, 600];
    const at = c.getContext('2d');
    at.fillStyle = '#d2cdc2';
    at.fillRect(0, 0, 900, 600);
    ['#8a2f3b', '#2e4a6b', '#c9713d', '#4f7d4a', '#5c3a78', '#1d6f78'].forEach((hex, i) => {
      at.fillStyle = hex;
      at.beginPath();
      at.ellipse(150 + 300 * (i % 3), 150 + 300 * Math.floor(i / 3), 90, 60, i, 0, 7);
      at.fill();
    });
    return c.toDataURL('image/png');
  });
  await page.locator('#photo').setInputFiles({ name: 'bags.png', mimeType: 'image/png', buffer: Buffer.from(url.split(',')[1], 'base64') });
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await page.getByRole('link', { name: 'Find the tufts' }).click();
  await expect(page.locator('.lines tbody tr')).toHaveCount(6);
  await page.getByLabel('All of them are').selectOption('corriedale');
  await page.getByRole('button', { name: 'Find them so' }).click();
  await expect(page.locator('.lines tbody tr')).toHaveCount(6);
  await axe(page, 'tufts on a photo');
  let pressed = 0;
  const type = async (text) => { pressed += text.length; await page.keyboard.type(text); };
  await page.getByLabel('Weight of line 1').focus();
  pressed += 1;
  for (let n = 1; n <= 6; n += 1) {
    await type('100');
    if (n < 6) await page.getByLabel(`Weight of line ${n + 1}`).click();
    pressed += 1;
  }
  await page.getByRole('button', { name: 'Put them on the shelf' }).click();
  expect(pressed / 6).toBeLessThan(5); // of a bag, its three digits among them
  await page.goto('/shelf/several?q=corriedale');
  const chosen = page.locator('.severallots li', { hasText: '100.0' });
  expect(await chosen.count()).toBeGreaterThanOrEqual(6);
  for (let n = 0; n < 2; n += 1) await chosen.nth(n).getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Change them' }).click();
  await expect(page.getByText('Say what they are to have alike.')).toBeVisible();
  await expect(chosen.nth(1).getByRole('checkbox')).toBeChecked();
  await page.getByLabel('Tags').fill('from the fair');
  await axe(page, 'several lots');
  await page.getByRole('button', { name: 'Change them' }).click();
  await expect(chosen.nth(1)).toContainText('from the fair');
  for (const width of [820, 390]) {
    await page.setViewportSize({ width, height: 844 });
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(width);
  }
});
