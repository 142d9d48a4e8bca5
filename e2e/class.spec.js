// A class: a teacher with a wall, three pupils on phones of their own.
import { test, expect, axe, opened, tabTo } from './world.js';

test.use({ verb: 'world', expected: ['status of 422', 'status of 404'] });

// answer says something to the exercise that stands there.
async function answer(page) {
  for (const group of await page.locator('.choices').all()) await group.getByRole('radio').nth(1).check();
  for (const menu of await page.locator('.layerpile select').all()) await menu.selectOption({ index: 1 });
  for (const slider of (await page.getByRole('slider').all()).slice(0, 2)) await slider.fill('5');
  const grams = page.getByLabel('It is, g');
  if (await grams.count()) await grams.fill('100');
  await page.getByRole('button', { name: 'That is my answer' }).click();
}

// comeIn takes a pupil from the code to the first exercise.
async function comeIn(context, code, name) {
  const page = await context.newPage();
  await page.setViewportSize({ width: 390, height: 844 });
  await opened(page, '/class');
  await page.getByLabel('The code on the wall').fill(code.toLowerCase());
  await page.keyboard.press('Enter');
  await page.getByLabel('You are called here').fill(name);
  await page.getByRole('button', { name: 'Come in' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('1 of 3');
  return page;
}

test('a class of three and a wall: who leaves comes back, and the teacher’s window loses nothing', async ({ page, context }) => {
  await opened(page, '/practise');
  await page.getByRole('link', { name: 'A round with a class' }).click();
  await axe(page, 'opening a round');
  await page.getByLabel('Called').fill('Tuesday');
  await page.getByLabel('How many').fill('30');
  await page.getByRole('button', { name: 'Open the round' }).click();
  await expect(page.getByRole('alert')).toContainText('1 to 12');
  await expect(page.getByLabel('Called')).toHaveValue('Tuesday');
  await page.getByLabel('How many').fill('3');
  await page.getByRole('button', { name: 'Open the round' }).dblclick();
  await expect(page.getByText('Nobody has come in yet')).toBeVisible();
  const code = await page.locator('.classcode').innerText();
  await page.goto('/rounds');
  await expect(page.getByText(code)).toHaveCount(1); // pressed twice, opened once
  await page.getByRole('link', { name: 'Tuesday' }).click();
  const teacher = page.url();

  const wall = await context.newPage();
  await opened(wall, `${teacher}/wall`);
  await expect(wall.locator('.classcode')).toHaveText(code);
  await axe(wall, 'the way in, on the wall');

  const [ada, ben, cleo] = await Promise.all(['Ada', 'Ben', 'Cleo'].map((name) => comeIn(context, code, name)));
  await expect(page.getByText('3 pupils, 0 answers')).toBeVisible(); // by itself
  await expect(wall.getByText('3 pupils here')).toBeVisible();
  await axe(ada, 'a pupil’s exercise');
  for (const pupil of [ada, ben, cleo]) {
    await answer(pupil);
    await expect(pupil.getByText(/\d+ of 100/)).toBeVisible();
    expect(await pupil.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
  }
  await axe(ada, 'what is said to a pupil');

  // Ben’s phone loses its page; he comes back by his word, and is at the second exercise.
  const word = await ben.locator('code').first().innerText();
  await ben.close();
  const back = await context.newPage();
  await opened(back, `/class/${code}`);
  await axe(back, 'coming in');
  await back.getByLabel('You are called here').fill('ben');
  await back.getByRole('button', { name: 'Come in' }).click();
  await expect(back.getByRole('alert')).toContainText('Somebody is called that');
  await back.getByLabel('Your word').fill(word.toLowerCase());
  await back.getByRole('button', { name: 'Back to my place' }).click();
  await expect(back.getByRole('heading', { level: 1 })).toContainText('2 of 3');
  await answer(back);
  await back.getByRole('link', { name: 'Next exercise' }).click();
  await answer(back);
  await back.getByRole('link', { name: 'How it went' }).click();
  await expect(back.getByRole('heading', { name: 'That were all of them' })).toBeVisible();
  await axe(back, 'how it went');

  // The wall is led by keys; where the answers lay is shown when it is wanted, and grows by itself.
  await wall.keyboard.press('ArrowRight');
  await expect(wall.getByText('3 of 3 pupils answered')).toBeVisible();
  await expect(wall.locator('.lay')).toHaveCount(0);
  await wall.keyboard.press(' ');
  await expect(wall.locator('.lay').first()).toBeVisible();
  await axe(wall, 'where the answers lay');
  await wall.keyboard.press('ArrowRight');
  await expect(wall.getByText('1 of 3 pupils answered')).toBeVisible();
  await ada.getByRole('link', { name: 'Next exercise' }).click();
  await answer(ada);
  await expect(wall.getByText('2 of 3 pupils answered')).toBeVisible();
  await wall.keyboard.press('ArrowLeft');
  await expect(wall.getByText('3 of 3 pupils answered')).toBeVisible();

  // The teacher’s window is closed and opened again; a ranking stands there only when it is asked for.
  await page.close();
  const again = await context.newPage();
  await opened(again, teacher);
  await expect(again.getByText('3 pupils, 6 answers')).toBeVisible();
  await axe(again, 'a round');
  await expect(again.getByText('On average')).toHaveCount(0);
  await again.getByRole('link', { name: 'As a ranking' }).click();
  await expect(again.getByText('On average')).toBeVisible();
  await tabTo(again, again.getByText('End the round'));
  await again.keyboard.press('Enter');
  await tabTo(again, again.getByRole('button', { name: 'End it, and forget the names' }));
  await again.keyboard.press('Enter');
  await expect(again.getByText('The round is over')).toBeVisible();
  await expect(again.getByText('Ada')).toHaveCount(0);
  for (const width of [820, 390]) {
    await again.setViewportSize({ width, height: 844 });
    expect(await again.evaluate(() => document.documentElement.scrollWidth)).toBe(width);
  }
  await cleo.getByRole('link', { name: 'Next exercise' }).click();
  await expect(cleo.getByText('No round has this code now')).toBeVisible();
});
