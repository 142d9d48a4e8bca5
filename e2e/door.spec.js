// From another device: a phone signs in over TLS and works at the scale, the laptop watches; devices are signed out.
import { test as base, expect, start, axe, settled } from './world.js';

const test = base.extend({
  program: async ({}, use) => { // eslint-disable-line no-empty-pattern
    const p = await start('demo', { args: ['-tls'], env: { FAIRTANGLE_PASSPHRASE: 'twelve signs or more' } });
    await use(p);
    await p.stop();
  },
});
test.use({ ignoreHTTPSErrors: true, expected: ['status of 401', 'Failed to load resource', 'net::ERR_INTERNET_DISCONNECTED'] });

async function signIn(page, path) {
  await page.goto(path);
  await page.getByLabel('Passphrase').fill('twelve signs or more');
  await page.getByRole('button', { name: 'Sign in' }).click();
}

test('a phone signs in over TLS and weighs while the laptop watches, with the network gone for a while', async ({ page, program, browser }) => {
  await page.goto('/weighouts/1/scale');
  await axe(page, 'the page to sign in');
  await page.getByLabel('Passphrase').fill('not this one');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('That is not the passphrase');
  await page.getByLabel('Passphrase').fill('twelve signs or more');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/weighouts\/1\/scale$/);
  const done = (where) => where.locator('.bowl .sub').last();
  await expect(done(page)).toHaveText('7 of 20 weighed');

  const phone = await browser.newContext({ baseURL: program.url, ignoreHTTPSErrors: true, viewport: { width: 390, height: 844 } });
  const thumb = await phone.newPage();
  await signIn(thumb, '/weighouts/1/scale');
  await expect(done(thumb)).toHaveText('7 of 20 weighed');
  await thumb.getByRole('button', { name: 'Weigh here' }).click();
  await phone.setOffline(true);
  await thumb.locator('#said').fill(await thumb.locator('.huge').innerText());
  await thumb.keyboard.press('Enter');
  await expect(thumb.locator('.saved')).toContainText('No connection to the program. Trying again.');
  await expect(done(page)).toHaveText('7 of 20 weighed');
  await phone.setOffline(false);
  await expect(done(thumb)).toHaveText('8 of 20 weighed', { timeout: 30000 });
  await expect(done(page)).toHaveText('8 of 20 weighed', { timeout: 30000 });
  await thumb.reload();
  await expect(done(thumb)).toHaveText('8 of 20 weighed'); // booked once

  await thumb.goto('/blends/6');
  await page.goto('/devices');
  await expect(page.getByRole('heading', { name: 'Other devices' })).toBeVisible();
  await axe(page, 'other devices');
  await page.getByLabel('A token for').fill('a script of mine');
  await page.getByRole('button', { name: 'Make it' }).click();
  const token = await page.locator('.secret').textContent();
  const ask = () => page.request.fetch(`${program.url}/api/v1/makings`, { headers: { Authorization: `Bearer ${token}`, Cookie: '' }, ignoreHTTPSErrors: true });
  expect((await ask()).status()).toBe(200);
  await page.getByRole('button', { name: 'Withdraw a script of mine' }).click();
  await expect(page.getByText('No program has a token yet.')).toBeVisible();
  expect((await ask()).status()).toBe(401);
  await page.getByRole('button', { name: 'Sign out everywhere' }).click();
  await expect(page.getByLabel('Passphrase')).toBeVisible();
  // What is typed on a device that was signed out waits until it is signed in again.
  await thumb.locator('#total').fill('77');
  await thumb.locator('#total').press('Enter');
  await expect(thumb.getByText('You were signed out.')).toBeVisible();
  const tab = await phone.newPage();
  await signIn(tab, '/shelf');
  await expect(tab).toHaveURL(/shelf$/);
  await settled(thumb);
  await thumb.reload();
  await expect(thumb.locator('#total')).toHaveValue('77');
  await tab.goto('/devices');
  await tab.getByRole('button', { name: 'Sign out everywhere' }).click();
  await thumb.goto('/shelf');
  await expect(thumb.getByLabel('Passphrase')).toBeVisible();
  await phone.close();
});
