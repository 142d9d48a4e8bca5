import { test, expect, axe, opened, settled, start, tabTo } from './world.js';

test.use({ verb: 'world', expected: ['status of 422'] });

test('equipment and a kind of one\'s own, from a preset to the shelf', async ({ page }) => {
  await page.goto('/workshop');
  await page.getByLabel('Add from a preset').selectOption('Small blending board');
  await page.getByRole('button', { name: 'Take it' }).click();
  await page.getByLabel('Holds of smooth fibre, g').fill('lots');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('alert')).toContainText('not a number');
  await axe(page, 'equipment with a wrong entry');
  await page.getByLabel('Holds of smooth fibre, g').fill('24');
  await page.getByLabel('Name').fill('lap board');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.locator('.equipment')).toContainText('lap board');
  await page.goto('/kinds');
  await page.getByRole('link', { name: 'Copy Romney as one of my own' }).click();
  await page.getByLabel('Name').fill('Estuary cross');
  await page.getByRole('button', { name: 'Save the kind' }).click();
  await page.goto('/lots/1/edit');
  await page.getByLabel('Kind of fibre').selectOption('Estuary cross');
  await page.getByRole('button', { name: 'Save the lot' }).click();
  await expect(page.locator('.facts')).toContainText('Estuary cross');
});

test('a making is copied, put away, taken up and binned', async ({ page }) => {
  await page.goto('/makings/2');
  await page.getByRole('button', { name: 'Copy it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Samphire mitts, copy');
  await page.getByRole('button', { name: 'Put it away' }).click();
  await page.getByRole('link', { name: 'Makings put away' }).click();
  await page.getByRole('link', { name: /Samphire mitts, copy/ }).click();
  await page.getByRole('button', { name: 'Take it up again' }).click();
  await page.getByRole('link', { name: /Samphire mitts, copy/ }).click();
  await page.getByRole('button', { name: 'To the bin' }).click();
  await expect(page.locator('.makings')).not.toContainText('copy');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('.makings')).toContainText('copy');
});

test('the mixing model and covering power change the prediction, and back', async ({ page }) => {
  const colour = async () => {
    await page.goto('/blends/3');
    return page.locator('.keyline').innerText();
  };
  const usual = await colour();
  const set = async (model, cover) => {
    await page.goto('/workshop');
    await page.getByLabel('Mixing model').selectOption(model);
    await page.getByLabel('Its parameter').fill('');
    await page.getByLabel(/Count covering power/).setChecked(cover);
    await page.getByRole('button', { name: 'Save the settings' }).click();
    await expect(page.getByRole('status')).toHaveText('Saved.');
  };
  await set('Friele', false);
  const friele = await colour();
  expect(friele).not.toBe(usual);
  await set('Stearns–Noechel', true);
  expect(await colour()).not.toBe(usual);
  await set('Stearns–Noechel', false);
  expect(await colour()).toBe(usual);
});

test('the shelf answers while one types, and Back shows what is so now', async ({ page }) => {
  await page.goto('/shelf');
  await page.getByLabel('Find').fill('samphire');
  await expect(page.locator('.headline .sub')).toContainText('2 lots found');
  await page.getByLabel('Shown as').selectOption('table');
  await expect(page.locator('table.plain tbody tr')).toHaveCount(2);
  await page.getByLabel('Find').fill('nothing like it');
  await expect(page.getByText('No lot fits')).toBeVisible();
  await page.goto('/shelf?q=samphire+red');
  await page.getByRole('link', { name: /samphire red tips/ }).click();
  await page.getByLabel('Weight, in g').fill('8');
  await page.getByRole('button', { name: 'Take out' }).click();
  await expect(page.locator('.answer')).toContainText('25.4');
  for (let i = 0; i < 2; i++) {
    await page.goBack();
    await page.waitForTimeout(300); // the page may be loading itself anew
    await page.waitForLoadState('networkidle');
  }
  await expect(page.locator('.wall')).toContainText('25.4 g');
});

test('parts, equal shares and the two ways of removing', async ({ page }) => {
  await page.goto('/blends/7');
  await expect(page.locator('.rows li')).toHaveCount(4);
  await page.getByRole('button', { name: 'Equal shares' }).click();
  await settled(page);
  await expect(page.getByLabel(/storm slate Gotland in percent/)).toHaveValue('25');
  await page.getByRole('button', { name: 'Show parts' }).click();
  await page.getByLabel(/storm slate Gotland in parts/).fill('50');
  await page.getByLabel(/storm slate Gotland in parts/).press('Enter');
  await expect(page.getByLabel(/storm slate Gotland in percent/)).toHaveValue('40');
  await page.locator('.more summary').nth(1).click();
  await page.getByRole('button', { name: 'Remove, others keep their weight' }).click();
  await expect(page.locator('.rows li')).toHaveCount(3);
  await expect(page.locator('#total')).toHaveValue('192');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('.rows li')).toHaveCount(4);
  await page.locator('.more summary').nth(1).click();
  await page.getByRole('button', { name: 'Remove, others take its place' }).click();
  await expect(page.locator('.rows li')).toHaveCount(3);
  await expect(page.locator('#total')).toHaveValue('240');
});

test('a copy is found, made, taken along and gone back to', async ({ page, program }) => {
  await program.cut(); // the sample world is a maker's own from here on
  await page.goto('/');
  await page.getByRole('link', { name: 'Workshop', exact: true }).click();
  await page.getByRole('link', { name: 'Copies, and going back to one' }).click();
  await page.getByRole('button', { name: 'Make a copy now' }).click();
  await expect(page.locator('.copies')).toContainText('looked over, whole');
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: /Take the copy of/ }).click()]);
  expect(file.suggestedFilename()).toMatch(/^fair-tangle .*\.zip$/);
  await page.getByLabel('Keep them in another folder').fill('on the other disk');
  await page.getByRole('button', { name: 'Keep them there' }).click();
  await expect(page.getByText('Name the folder from the root of the disk on')).toBeVisible();
  await expect(page.getByLabel('Keep them in another folder')).toHaveValue('on the other disk');
  await axe(page, 'copies');

  await page.getByRole('link', { name: 'Makings', exact: true }).click();
  await page.getByLabel('A new making').fill('after the copy');
  await page.getByLabel('A new making').press('Enter');
  await expect(page.getByRole('heading', { name: 'after the copy' })).toBeVisible();
  await page.goto('/copies');
  await page.getByText('Go back to it').click();
  await page.getByRole('button', { name: 'Begin with it' }).click();
  await expect(page.getByText('The program has begun again')).toBeVisible();
  await page.goto('/makings');
  await expect(page.locator('.makings')).toContainText('Tide Table throw');
  await expect(page.locator('.makings')).not.toContainText('after the copy');
});

test('all of it is taken to another computer, from the first page there', async ({ page, program, browser }) => {
  await program.cut();
  await page.goto('/copies');
  await page.getByRole('button', { name: 'Make a copy now' }).click();
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: /Take the copy of/ }).click()]);
  const zip = await file.path();
  const other = await start('serve');
  const there = await (await browser.newContext({ baseURL: other.url })).newPage();
  await there.goto('/');
  await there.getByRole('link', { name: 'Bring along what you have there' }).click();
  await there.getByRole('button', { name: 'Bring it in' }).click();
  await expect(there.getByText('Choose the zip that was taken along.')).toBeVisible();
  await there.getByLabel('The zip of a copy').setInputFiles({ name: 'a.zip', mimeType: 'application/zip', buffer: Buffer.from('no zip') });
  await there.getByRole('button', { name: 'Bring it in' }).click();
  await expect(there.getByText('the file is not a zip')).toBeVisible();
  await axe(there, 'a copy that is none');
  await there.getByLabel('The zip of a copy').setInputFiles(zip);
  await there.getByRole('button', { name: 'Bring it in' }).click();
  await expect(there.getByText('It holds 4 makings')).toBeVisible();
  await there.getByRole('button', { name: 'Begin with it' }).first().click();
  await expect(there.getByText('The program has begun again')).toBeVisible();
  await there.goto('/makings');
  await expect(there.locator('.makings')).toContainText('Tide Table throw');
  await there.context().close();
  await other.stop();
});

// carried is a zip of all that a program has.
async function carried(page) {
  await page.goto('/copies');
  await page.getByRole('button', { name: 'Make a copy now' }).click();
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: /Take the copy of/ }).first().click()]);
  return file.path();
}

async function made(page, name) {
  await page.goto('/makings');
  await page.getByLabel('A new making').fill(name);
  await page.getByLabel('A new making').press('Enter');
  await expect(page.getByRole('heading', { name })).toBeVisible();
}

async function totalled(page, path, total) {
  await opened(page, path);
  await page.locator('#total').fill(total);
  await page.locator('#total').press('Enter');
  await settled(page);
}

test('two benches are brought together, by keys, on a phone, answers 400 ms late, pressed twice', async ({ page, program, browser }) => {
  await program.cut();
  const zip = await carried(page);
  const other = await start('serve');
  const there = await (await browser.newContext({ baseURL: other.url })).newPage();
  await there.goto('/copies');
  await there.getByLabel('The zip of a copy').setInputFiles(zip);
  await there.getByRole('button', { name: 'Bring it in' }).click();
  await there.getByRole('button', { name: 'Begin with it' }).first().click();
  await expect(there.getByText('The program has begun again')).toBeVisible();
  await made(there, 'begun on the tablet');
  await totalled(there, '/blends/3', '130');
  await made(page, 'begun on the laptop');
  await totalled(page, '/blends/3', '90');
  await totalled(there, '/blends/1', '210');
  const back = await carried(there);

  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/copies');
  await page.getByLabel('The zip of a copy').setInputFiles(back);
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await page.route(/\/newer$/, async (r) => {
    await new Promise((done) => setTimeout(done, 400));
    await r.continue();
  });
  await tabTo(page, page.getByRole('link', { name: 'Or take over' }));
  await page.keyboard.press('Enter');
  const list = page.locator('form.newer');
  await expect(list.getByRole('checkbox', { name: 'begun on the tablet' })).toBeChecked();
  await expect(list).toContainText('changed on both');
  await expect(list.locator('tbody')).toContainText(/130.*90/s);
  await axe(page, 'what another computer has');
  await tabTo(page, page.getByLabel('Keep it as it is here'));
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await expect(page.getByLabel('Have both, side by side')).toBeChecked();
  await page.getByRole('button', { name: 'Take over what is chosen' }).dblclick();
  await expect(page.getByText('3 things came over.').or(page.getByText('0 things came over.'))).toBeVisible(); // the second press found nothing left
  await expect(page.getByText('Nothing else there is newer than here.')).toBeVisible();
  await page.unrouteAll({ behavior: 'wait' });
  await page.goto('/makings');
  await expect(page.locator('.makings')).toContainText('begun on the tablet');
  await expect(page.locator('.makings')).toContainText('begun on the laptop');
  await opened(page, '/blends/1');
  await expect(page.locator('#total')).toHaveValue('210');
  await opened(page, '/blends/3');
  await expect(page.locator('#total')).toHaveValue('90');
  await page.goto('/makings/3');
  await expect(page.getByRole('main')).toContainText('(other bench)');
  await there.context().close();
  await other.stop();
});

test.describe('a browser that keeps a page', () => {
  test.use({ serviceWorkers: 'allow', expected: ['ERR_CONNECTION_REFUSED', 'Failed to load resource', 'ERR_FAILED'] });
  test('says that the program does not answer, and goes on once it does', async ({ page, program }) => {
    await page.goto('/shelf?q=grey');
    await page.waitForFunction(() => navigator.serviceWorker.controller);
    await program.away();
    await page.goto('/shelf?q=blue');
    await expect(page.getByRole('heading', { name: 'Fair Tangle does not answer' })).toBeVisible();
    await axe(page, 'the program does not answer');
    await program.back();
    await page.getByRole('link', { name: 'Try again' }).click();
    await expect(page.getByLabel('Find')).toHaveValue('blue');
  });
});
