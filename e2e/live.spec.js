// At a scale that speaks: the simulated ones of the sample world, whose pans are worked
// here as a hand would.
import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test, expect, axe } from './world.js';

test.use({ verb: 'demo', expected: ['ERR_CONNECTION_REFUSED', 'ERR_INCOMPLETE_CHUNKED', 'ERR_EMPTY_RESPONSE', 'status of 422', 'request to http://127.0.0.1:'] });

// pan works a pan: the bench scale is the first, the fine one the second.
const pan = (page, what, n = 1) => page.request.post(`/pans/${n}/${what}`, { headers: { 'X-Pan': '1' } });
const done = (page) => page.locator('.bowl .sub').last();
const wanted = async (page) => Number(await page.locator('.huge').innerText());
const net = (page) => page.locator('.livenet');
const said = (page) => page.locator('.livesaid');

async function settings(page, set) {
  await page.locator('.platesettings summary').click();
  await set();
  await page.locator('.platesettings summary').click();
}

// Each fibre straight on the pan and off again: taken by itself, one of them too much,
// the scale unplugged in the middle, the power cut at last.
test('fibre by fibre, with a weight too much and a scale unplugged', async ({ page }) => {
  test.slow();
  await page.goto('/weighouts/1/scale');
  await expect(page.locator('.bowl')).toContainText('opened 13 times');
  await settings(page, async () => {
    await page.getByLabel('fibre by fibre').check();
    await page.getByLabel('Which scale is listened to').selectOption({ label: 'Bench scale, steps of 0.1 g' });
    await page.getByLabel('each into a dish of its own').check();
    await page.getByLabel('What stands on it').selectOption('0');
  });
  await expect(page.locator('.bowl')).toContainText('opened 5 times');
  await expect(page.locator('.now')).toHaveText('grey-blue Corriedale');
  for (let n = 8; n <= 9; n += 1) {
    await expect(said(page)).toHaveText('Put it on.');
    await pan(page, `put?grams=${await wanted(page)}`);
    await expect(done(page)).toHaveText(`${n} of 20 weighed`);
    await expect(said(page)).toContainText('Take the dish off');
    await pan(page, 'clear');
  }
  await expect(page.locator('.now')).toHaveText('undyed Romney');
  await expect(said(page)).toHaveText('Put it on.');
  await pan(page, 'put?grams=7');
  await expect(said(page)).toContainText('to go');
  await pan(page, 'unplug?out=yes');
  await expect(said(page)).toContainText('looked for again');
  await expect(net(page)).toHaveText('–');
  await pan(page, 'unplug?out=no');
  await expect(net(page)).toHaveText('7.0');
  const much = 16 - await wanted(page);
  await pan(page, 'put?grams=9'); // 16 g of some 13.5
  await expect(said(page)).toContainText('too much');
  await expect(net(page)).toHaveText('16.0');
  await expect(net(page)).not.toHaveClass(/waiting/);
  await page.keyboard.press('Enter');
  await expect(page.locator('.verdictline')).toContainText(`${much.toFixed(1)} g`);
  await axe(page, 'too much on the plate');
  await page.keyboard.press('l');
  await expect(done(page)).toHaveText('10 of 20 weighed');
  await pan(page, 'clear');
  const took = await page.evaluate(() => performance.getEntriesByName('booked').map((e) => e.duration).sort((a, b) => a - b));
  console.log(`from taken to booked: median ${Math.round(took[Math.floor(took.length / 2)])} ms of ${took.length}`);
});

// Onto the mixing bowl, one fibre after the other: what lies there counts as nothing. Undo
// brings a fibre back that still lies in the bowl.
test('a bowl is filled with a running tare', async ({ page }) => {
  await page.goto('/weighouts/1/scale');
  await pan(page, 'put?grams=412.3');
  await expect(net(page)).toHaveText('412.3');
  await settings(page, () => page.getByLabel('What stands on it').selectOption({ label: 'Mixing bowl, 412.3 g' }));
  await expect(net(page)).toHaveText('0.0');
  const first = await page.locator('.now').innerText();
  await pan(page, `put?grams=${await wanted(page)}`);
  await expect(done(page)).toHaveText('8 of 20 weighed');
  await expect(net(page)).toHaveText('0.0');
  await axe(page, 'the plate of a scale that speaks');
  const second = await wanted(page);
  await pan(page, `put?grams=${second}`);
  await expect(done(page)).toHaveText('9 of 20 weighed');
  await pan(page, 'put?grams=-2');
  await expect(net(page)).toHaveText('-2.0');
  await page.keyboard.press('t');
  await expect(net(page)).toHaveText('0.0');
  await page.keyboard.press('Control+z');
  await expect(done(page)).toHaveText('8 of 20 weighed');
  expect(await page.locator('.now').innerText()).not.toBe(first);
  await expect(net(page)).toHaveText(second.toFixed(1));
  await expect(said(page)).toHaveText('Taken back; it lies there still.');
  await page.waitForTimeout(1500); // what was taken back is not taken again before a hand was at it
  await expect(done(page)).toHaveText('8 of 20 weighed');
  await pan(page, 'put?grams=-2');
  await expect(net(page)).toHaveText((second - 2).toFixed(1)); // the scale has seen the hand
  await pan(page, 'put?grams=2');
  await expect(done(page)).toHaveText('9 of 20 weighed');
});

// Keys alone, and a pedal that sends PageDown; nothing is taken by itself.
test('by keyboard and pedal, when it is told not to take by itself', async ({ page }) => {
  await page.goto('/weighouts/1/scale');
  await settings(page, () => page.getByLabel('take it by itself').uncheck());
  await page.locator('#said').focus();
  await pan(page, `put?grams=${await wanted(page)}`);
  await expect(said(page)).toHaveText('That is it.');
  await page.waitForTimeout(1200);
  await expect(done(page)).toHaveText('7 of 20 weighed');
  await page.keyboard.press('PageDown');
  await expect(done(page)).toHaveText('8 of 20 weighed');
  await pan(page, `put?grams=${await wanted(page)}`);
  await expect(said(page)).toHaveText('That is it.');
  await page.keyboard.press('Space');
  await expect(done(page)).toHaveText('9 of 20 weighed');
  await page.reload();
  await expect(done(page)).toHaveText('9 of 20 weighed');
  await expect(net(page)).toHaveText('0.0'); // the tare outlives the page
  await page.locator('#said').fill('3');
  await pan(page, 'put?grams=3.8');
  await page.waitForTimeout(2500);
  await expect(page.locator('#said')).toHaveValue('3');
  await expect(done(page)).toHaveText('9 of 20 weighed');
});

// A fast hand has the next fibre on the pan before the answer comes.
test('nothing is lost with answers that are late and a fast hand', async ({ page }) => {
  await page.goto('/weighouts/1/scale');
  await expect(said(page)).toHaveText('Put it on.');
  let answered;
  const nextLies = new Promise((r) => { answered = r; });
  await page.route(/\/(weigh|plate)$/, async (route) => {
    await nextLies;
    await new Promise((r) => { setTimeout(r, 400); });
    await route.continue();
  });
  await pan(page, `put?grams=${await wanted(page)}`);
  await expect(page.getByText('Being kept')).toBeVisible();
  await pan(page, 'put?grams=10.2');
  answered();
  await expect(done(page)).toHaveText('9 of 20 weighed');
  await expect(net(page)).toHaveText('0.0');
  await page.reload();
  await expect(done(page)).toHaveText('9 of 20 weighed');
});

for (const width of [820, 390]) {
  test(`the live plate fits a window ${width} wide`, async ({ page }) => {
    await page.setViewportSize({ width, height: 900 });
    await page.goto('/weighouts/1/scale');
    await expect(said(page)).toHaveText('Put it on.');
    await page.locator('.platesettings summary').click();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
    await axe(page, `the plate, ${width} wide`);
  });
}

test('scales and containers are named, changed, refused and put into the bin', async ({ page }) => {
  await page.goto('/workshop');
  await page.getByRole('link', { name: 'Name scales and containers' }).click();
  await page.getByLabel('Name of the scale').fill('Kitchen scale');
  await page.getByLabel('Where it speaks').fill('somewhere');
  await page.getByLabel('Its smallest step').fill('1');
  await page.getByLabel('It weighs up to').fill('5000');
  await page.getByRole('button', { name: 'Save the scale' }).click();
  await expect(page.locator('.wrong')).toContainText('HOST:PORT');
  await expect(page.getByLabel('It weighs up to')).toHaveValue('5000');
  await page.getByLabel('Where it speaks').fill('/dev/ttyUSB7');
  await page.getByRole('button', { name: 'Save the scale' }).click();
  await expect(page.locator('.lines').first()).toContainText('Kitchen scale');
  await page.getByRole('link', { name: 'Tin dish' }).click();
  await page.getByLabel('It weighs, g').fill('18.6');
  await page.getByRole('button', { name: 'Save the container' }).click();
  await expect(page.locator('.lines').last()).toContainText('18.6');
  await axe(page, 'scales and containers');
  const row = page.locator('.lines').first().locator('li', { hasText: 'Kitchen scale' });
  await row.getByRole('button', { name: 'To the bin' }).click();
  await expect(page.locator('.notice').first()).toContainText('in the bin');
  await expect(page.locator('.lines').first()).not.toContainText('Kitchen scale');
});

const freePort = () => new Promise((resolve) => {
  const s = createServer().listen(0, '127.0.0.1', () => {
    const { port } = s.address();
    s.close(() => resolve(port));
  });
});

// The program is killed in the middle of a weighing and started again: what was said to be
// kept is there, the page goes on by itself.
test('a power cut in the middle of weighing', async ({ page }) => {
  const program = new URL('../bin/fairtangle', import.meta.url).pathname;
  const addr = `127.0.0.1:${await freePort()}`;
  const data = mkdtempSync(join(tmpdir(), 'fairtangle-cut-'));
  const run = (verb) => new Promise((resolve, reject) => {
    const child = spawn(program, [verb, '-addr', addr, '-data', data], { stdio: ['ignore', 'pipe', 'ignore'] });
    child.stdout.on('data', () => resolve(child));
    child.on('exit', reject);
  });
  let child = await run('demo');
  child.removeAllListeners('exit');
  await page.route((url) => url.host === addr, (r) => r.continue());
  await page.goto(`http://${addr}/weighouts/1/scale`);
  await page.locator('#said').fill(await page.locator('.huge').innerText());
  await page.keyboard.press('Enter');
  await expect(done(page)).toHaveText('8 of 20 weighed');
  const gone = new Promise((r) => { child.on('exit', r); });
  child.kill('SIGKILL');
  await gone;
  await expect(said(page)).toContainText('No connection');
  await page.locator('#said').fill(await page.locator('.huge').innerText());
  await page.keyboard.press('Enter');
  await expect(page.locator('.saved')).toContainText('No connection to the program. Trying again.');
  child = await run('serve');
  child.removeAllListeners('exit');
  await expect(done(page)).toHaveText('9 of 20 weighed', { timeout: 30_000 });
  await page.reload();
  await expect(done(page)).toHaveText('9 of 20 weighed');
  const over = new Promise((r) => { child.on('exit', r); });
  child.kill('SIGINT');
  await over;
});

// Ten lots on the pan, one after the other: booked at once, the difference shown; one that
// was wrong is taken back and counted again by typing.
test('ten lots are counted against their ledger', async ({ page }) => {
  test.slow();
  await page.goto('/shelf');
  await page.getByRole('link', { name: 'Take stock' }).click();
  const rows = page.locator('.stocklist li');
  const counted = page.locator('.bowl > .sub');
  await expect(said(page)).toHaveText('It rests.');
  for (let n = 1; n <= 9; n += 1) {
    const ledger = await wanted(page);
    if (n > 4) { // the others are read off another scale
      await page.locator('#said').fill(String(ledger));
      await page.keyboard.press('Enter');
      await expect(counted).toHaveText(`${n} of 37 counted`);
      continue;
    }
    await pan(page, `put?grams=${n % 3 ? ledger : ledger - 1.5}`);
    await expect.poll(async () => Number(await net(page).innerText())).toBeGreaterThan(1); // the pan itself may be 0.1 off
    if (n !== 4) await expect(said(page)).toHaveText('It rests.'); // else a fast hand: it is taken once it rests
    await page.keyboard.press(n % 2 ? 'Enter' : 'PageDown');
    await expect(counted).toHaveText(`${n} of 37 counted`);
    await pan(page, 'clear');
    await expect(net(page)).toHaveText(/^-?0\.[01]$/);
  }
  await expect(rows.nth(2)).toContainText(/−1\.[456]/);
  await page.locator('#said').fill('abc');
  await page.keyboard.press('Enter');
  await expect(page.locator('#saidwrong')).toContainText('not a number');
  await expect(page.locator('#said')).toHaveValue('abc');
  await page.locator('#said').fill('12.5');
  await page.keyboard.press('Enter');
  await expect(counted).toHaveText('10 of 37 counted');
  await axe(page, 'stock-taking');
  await rows.nth(2).getByRole('button', { name: /Take the count/ }).click();
  await expect(counted).toHaveText('9 of 37 counted');
  await page.reload();
  await expect(counted).toHaveText('9 of 37 counted');
  await expect(rows.nth(9)).toContainText('12.5');
  await page.setViewportSize({ width: 390, height: 844 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

// A pinch that no step of the scale shows well: it is said, weighed once for all units,
// and divided.
test('weighed once for all units, and divided', async ({ page }) => {
  await page.goto('/weighouts/1/scale');
  await expect(said(page)).toHaveText('Put it on.');
  await page.locator('.bowl li').nth(4).getByRole('button').first().click();
  await expect(page.locator('.now')).toHaveText('deep teal Merino');
  await page.getByRole('button', { name: 'Weigh 11.4 g for all 3 units, and divide' }).click();
  await expect(page.locator('.huge')).toHaveText('11.4');
  await page.locator('#said').fill('15');
  await page.keyboard.press('Enter');
  await expect(page.locator('#saidwrong')).toContainText('3.6 g more than all of them want');
  await expect(page.locator('#said')).toHaveValue('15');
  await page.locator('#said').fill('');
  await pan(page, 'put?grams=11.4');
  await expect(page.locator('.saved')).toContainText('Divide it: unit 2 3.8, unit 3 3.8, unit 4 3.8');
  await expect(done(page)).toHaveText('10 of 20 weighed');
});

// The shelf has less than is still to weigh: it is said before it happens, with the ways on.
test('a lot that runs out', async ({ page }) => {
  await page.goto('/weighouts/1/scale');
  await expect(page.locator('.plate .short')).toBeHidden();
  await page.goto('/lots/3');
  await page.getByLabel('Weight, in g').fill('20');
  await page.getByRole('button', { name: 'Recount to this' }).click();
  await expect(page.locator('.answer')).toContainText('20 g on the shelf');
  await page.goto('/weighouts/1/scale');
  await expect(page.locator('.plate .short')).toContainText('13.0 g too little');
  await page.getByRole('button', { name: 'Ways on' }).click();
  const ways = page.locator('.waysonlist');
  await expect(ways).toContainText('20.0 g are left, 33.0 g are still to weigh.');
  await expect(ways.getByRole('button', { name: 'Spread what there is' })).toBeVisible();
  await axe(page, 'ways on where a lot runs out');
  await ways.getByRole('button', { name: 'Leave 2 units out' }).click();
  await expect(page.locator('.plate .short')).toBeHidden();
  await expect(page.locator('.huge')).toHaveText('11.0');
  await expect(page.locator('.bowl .units')).toContainText('4 ✓');
});

// What is told to the plate arrives in its order, however late: going to and fro ends with
// the plate where the page is.
test('the plate follows the page to and fro with answers of any lateness', async ({ page }) => {
  await page.goto('/weighouts/1/scale');
  await expect(said(page)).toHaveText('Put it on.');
  let n = 0;
  await page.route('**/plate', async (route) => {
    n += 1;
    await new Promise((r) => { setTimeout(r, n % 2 ? 700 : 30); });
    await route.continue();
  });
  const rows = page.locator('.bowl li');
  for (const i of [4, 3, 4]) await rows.nth(i).getByRole('button').first().click();
  await page.getByRole('button', { name: /for all 3 units/ }).click();
  await pan(page, 'put?grams=4');
  await expect(said(page)).toHaveText('7.4 g to go');
  await page.getByRole('button', { name: 'Weigh it for this unit alone' }).click();
  await expect(said(page)).toHaveText('0.2 g too much');
});
