// A lesson at the carder: prepared in a minute, weighed bag by bag, measured on one photo.
import { test, expect, axe, opened } from './world.js';

test.use({ verb: 'world', expected: ['status of 422'] });

test('a lesson for three: bags, sheets, who has weighed what, samples measured on a photo', async ({ page, context }) => {
  await opened(page, '/practise');
  await page.getByRole('link', { name: 'A lesson at the carder' }).click();
  await axe(page, 'a lesson');
  await page.getByLabel('Pupils, one in a line').fill('Ada\nBen\nCleo');
  await page.getByLabel('Find a bag').fill('gotland');
  await page.getByLabel('Find a bag').press('Enter'); // searches, and sends nothing
  await page.getByRole('checkbox', { name: /Gotland/ }).first().check();
  await page.getByRole('button', { name: 'Prepare the lesson' }).click();
  await expect(page.getByRole('alert')).toContainText('two at least');
  await expect(page.getByLabel('Pupils, one in a line')).toHaveValue('Ada\nBen\nCleo');
  await expect(page.getByRole('checkbox', { name: /Gotland/ }).first()).toBeChecked();
  await axe(page, 'a lesson that can not be');
  await page.getByRole('checkbox', { name: /silk, white/ }).first().check();
  await page.getByRole('button', { name: 'Prepare the lesson' }).dblclick();
  await expect(page.getByText('This bag is open')).toBeVisible();
  await axe(page, 'who has weighed what');
  const wall = page.url();

  // One weighs at the scale: the wall shows it by itself.
  const pupil = await context.newPage();
  await pupil.goto(wall);
  await pupil.getByRole('link', { name: 'Ada' }).click();
  await expect(pupil).toHaveURL(/\/weighouts\/\d+\/scale/);
  const id = pupil.url().match(/weighouts\/(\d+)/)[1];
  const weighed = await pupil.evaluate(async (of) => {
    const w = await (await fetch(`/api/v1/weighouts/${of}`)).json();
    const res = await fetch(`/api/v1/weighouts/${of}/weighings`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ key: 'of-the-lesson', version: w.version, unit: 0, component: 0, grams: w.units[0].cells[0].target_g }),
    });
    return res.status;
  }, id);
  expect(weighed).toBe(201);
  await expect(page.locator('.portions .done')).toContainText('Ada');

  await page.getByRole('link', { name: 'Sheets for the places' }).click();
  await expect(page.locator('.placesheet')).toHaveCount(3);
  await axe(page, 'sheets for the places');
  await page.goto(wall);
  await page.getByRole('link', { name: 'Samples side by side' }).click();
  await axe(page, 'samples not measured yet');
  await page.getByRole('link', { name: 'Estuary' }).click();
  await page.getByRole('application').focus();
  for (const name of ['Ada', 'Ben']) {
    await page.getByRole('application').press('Enter'); // reads the spot
    const whose = page.getByLabel('This is the sample of');
    await expect(whose).toBeVisible();
    await expect(whose.locator('option:checked')).toHaveText(name);
    await page.getByRole('button', { name: 'Keep it' }).click();
    await expect(page.getByText('Noted.')).toBeVisible();
  }
  await page.goto(`${wall}/samples`);
  await expect(page.getByText('by CIEDE2000')).toHaveCount(2);
  await expect(page.getByText('not measured yet')).toHaveCount(1);
  await axe(page, 'samples side by side');
  for (const path of ['/lesson', wall, `${wall}/sheets`, `${wall}/samples`]) {
    for (const width of [820, 390]) {
      await page.setViewportSize({ width, height: 844 });
      await opened(page, path);
      expect(await page.evaluate(() => document.documentElement.scrollWidth), `${path} at ${width}`).toBe(width);
    }
  }
});
