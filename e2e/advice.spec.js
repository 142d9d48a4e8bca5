// The second look: a plan that will go wrong, mended press by press.
import { test, expect, axe, tabTo, late } from './world.js';

test.use({ verb: 'world', expected: ['status of 422'] });

// plan starts a making whose blend is mostly slippery, with too much glitter and too many dots.
async function plan(page) {
  const m = await (await page.request.post('/api/v1/makings', { data: { name: 'First try' } })).json();
  const bought = (name, kind, parts) => ({ lot_id: null, name, kind, preparation: 'carded_sliver', hex: '#8899aa', parts });
  const components = [bought('shine', 'viscose', 70), bought('wool', 'corriedale', 15), bought('dots', 'neps_wool', 10), bought('glitter', 'film_metallised', 5)];
  const b = await (await page.request.post(`/api/v1/makings/${m.id}/blends`, { data: { name: 'Bad plan', total_g: 150, passes: 5, components } })).json();
  await page.request.post(`/api/v1/makings/${m.id}/need`, { data: { way: 'batts', count: 3, each_g: 50, uses: ['socks'], look: 'even' } });
  return b.id;
}

const mends = (page) => page.locator('.second .mend:visible .btn');

test('a bad plan becomes a good one by mends alone, by keys, answers 400 ms late', async ({ page }) => {
  test.slow();
  await page.goto('/makings');
  const id = await plan(page);
  await page.goto(`/blends/${id}`);
  await expect(page.locator('.finding').first()).toBeVisible();
  await expect(page.locator('.second')).toContainText('slippery');
  await axe(page, 'the second look at a bad plan');
  const { quiet } = await late(page, 400);
  const before = await page.locator('.second summary [role=status]').first().innerText();
  for (let i = 0; i < 8 && await mends(page).count() > 0; i++) {
    const said = await mends(page).first().innerText();
    await tabTo(page, mends(page).first(), 200);
    await page.keyboard.press('Enter');
    await quiet();
    await expect(page.locator('.saved').first()).toHaveText(/^(Saved)?$/); // a sample that is weighed out shows the page anew
    await expect(mends(page).filter({ hasText: said })).toHaveCount(0);
  }
  await expect(mends(page)).toHaveCount(0);
  await expect(page.locator('.second summary [role=status]').first()).not.toHaveText(before);
  await expect(page.locator('.second')).not.toContainText('Stop:');
  await expect(page.locator('.second')).not.toContainText('slippery');
  await expect(page.locator('.goes-in .numfield[aria-label^="shine"]').first()).not.toHaveValue('70');
  await axe(page, 'after its mends');
  // One press back brings the last finding again.
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await quiet();
  await expect(mends(page)).not.toHaveCount(0);
});

// newcomer starts a making as a newcomer would: seven tenths slippery, a very short fibre with a long one, the dots first,
// one lane twice as thick, white after something dark, and no sample.
async function newcomer(page) {
  const api = async (path, data) => {
    const r = await page.request.post(`/api/v1/${path}`, { data });
    expect(r.ok(), `${path} ${await r.text()}`).toBeTruthy();
    return r.json();
  };
  const m = await api('makings', { name: 'First batts' });
  await api(`makings/${m.id}/need`, { way: 'batts', count: 1, each_g: 60, uses: ['hard-wearing'], look: 'heather' });
  const bought = (name, kind, parts) => ({ lot_id: null, name, kind, preparation: 'carded_sliver', hex: '#f2f0ea', parts });
  const components = [
    bought('silk', 'silk_tussah', 35), bought('shine', 'viscose', 35), bought('cotton', 'cotton_upland', 15), bought('wool', 'corriedale', 10), bought('dots', 'neps_wool', 5),
  ];
  const b = await api(`makings/${m.id}/blends`, { name: 'Bad plan', total_g: 60, passes: 1, components });
  const drum = await (await page.request.get('/api/v1/layups/1')).json(); // on which another is laid
  const empty = await api(`blends/${b.id}/layups`, { name: 'As it came to mind', equipment_id: drum.equipment_id, units: 1, draft: 1.75, layers: [] });
  const g = empty.fibres.map((f) => f.grams);
  const lay = (component, from, to, grams) => ({ component, from, to, start: 0, end: 1, grams, method: 'feed' });
  const layers = [
    { lays: [lay(4, 0, 1, g[4])] },
    { lays: [lay(0, 0, 0.3, g[0]), lay(1, 0.3, 0.85, g[1]), lay(2, 0.85, 1, g[2])] },
    { lays: [lay(3, 0, 1, g[3])] },
  ];
  const l = await (await page.request.put(`/api/v1/layups/${empty.id}`, { data: { version: empty.version, name: empty.name, equipment_id: drum.equipment_id, units: 1, draft: 1.75, layers } })).json();
  expect(l.layers.length).toBe(3);
  return { blend: b.id, layup: l.id };
}

const seen = async (page, at, { blend, layup }) => (await page.request.get(`/second.json?at=${at}&blend=${blend}&layup=${layup}`)).json();
const weighty = (v) => [...v.open, ...v.more].filter((f) => f.severity !== 'hint').map((f) => `${f.weight} ${f.what}`);

test('a newcomer’s bad plan becomes a good one by mends alone, at the blend, the lay-up and the carder', async ({ page }) => {
  test.slow();
  await page.goto('/makings');
  const id = await newcomer(page);
  const stops = [`/blends/${id.blend}`, `/layups/${id.layup}`, `/layups/${id.layup}/card`];
  // What lay on the drum before is told where it is asked.
  await page.goto(stops[2]);
  const asks = page.locator('.second details.tellmore');
  await asks.locator('summary').click();
  await asks.getByRole('button', { name: 'something dark' }).click();
  await expect(page.locator('.second')).toContainText('Something darker was on it before');
  expect((await seen(page, 'blend', id)).said).toContain('stop');
  expect(weighty(await seen(page, 'lay-up', id)).length).toBeGreaterThan(2);
  const { quiet } = await late(page, 400);
  let presses = 0;
  const places = { blend: stops[0], 'lay-up': stops[1], card: stops[2] };
  const waits = async (at) => { const v = await seen(page, at, id); return [...v.open, ...v.more].some((f) => f.mends || (at === 'lay-up' && f.ways.length)); };
  for (let turn = 0; turn < 6; turn++) {
    const at = Object.keys(places)[turn % 3];
    if (!await waits(at)) continue;
    await page.goto(places[at]);
    await expect(page.locator('.second summary [role=status]').first()).not.toHaveText(/^(Looking it over\.)?$/);
    await quiet();
    while (presses < 40 && await mends(page).count() > 0) {
      const before = await page.locator('.second').innerText();
      await tabTo(page, mends(page).first(), 250);
      await page.keyboard.press('Enter');
      presses += 1;
      await expect(page.locator('.second')).not.toHaveText(before, { useInnerText: true });
      await expect(page.locator('.second summary [role=status]').first()).not.toHaveText(/^(Looking it over\.)?$/); // the page comes anew
      await quiet();
    }
    await axe(page, `after its mends, ${at}`);
  }
  for (const at of ['need', 'fibres', 'blend', 'lay-up', 'weigh', 'card', 'yarn']) expect(weighty(await seen(page, at, id)), at).toEqual([]);
  expect(presses).toBeLessThan(40);
  await page.goto(stops[1]);
  await expect(page.locator('.bedfacts')).toContainText('all laid');
  await expect(page.locator('.second')).not.toContainText('Stop:');
  for (const width of [820, 390]) {
    await page.setViewportSize({ width, height: 844 });
    for (const url of stops) {
      await page.goto(url);
      expect(await page.evaluate(() => document.documentElement.scrollWidth), url).toBeLessThanOrEqual(width);
    }
  }
});

test('a rule is silenced with a reason, and speaks again; why it is one', async ({ page }) => {
  await page.goto('/blends/6');
  const slippery = page.locator('.finding', { hasText: 'of it is slippery' });
  await slippery.locator('summary').click();
  await expect(slippery).toContainText('Some stop at');
  await slippery.getByRole('textbox').fill('it is to drape');
  await slippery.getByRole('button', { name: 'Be quiet' }).click();
  await expect(page.locator('.second')).toContainText('quiet');
  await expect(slippery).toHaveCount(0);
  await page.getByRole('link', { name: 'All that it looks at' }).click();
  await expect(page.locator('main')).toContainText('in Tide Table throw: it is to drape');
  await axe(page, 'all rules');
  await page.getByRole('button', { name: 'Speak of it again' }).click();
  await page.goto('/blends/6');
  await expect(slippery).toBeVisible();
  await slippery.locator('summary').click();
  await slippery.getByRole('link', { name: 'More of it' }).click();
  await expect(page.locator('h1')).toHaveText('Slippery share high');
  await axe(page, 'why it is a rule');
  for (const width of [820, 390]) {
    await page.setViewportSize({ width, height: 844 });
    for (const path of ['/blends/6', '/advice', '/advice/R08']) {
      await page.goto(path);
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
    }
  }
});

test('what is not known is told where it is asked, a mend is asked about first, and a lot waits', async ({ page }) => {
  await page.goto('/layups/1/card');
  const panel = page.locator('.second');
  await panel.locator('.tellmore summary').click();
  const asked = panel.locator('.askform', { hasText: 'How many turns a minute?' });
  await asked.getByRole('textbox').fill('fast');
  await page.keyboard.press('Enter');
  await expect(asked.getByRole('alert')).toContainText('such as 12');
  await expect(asked.getByRole('textbox')).toHaveValue('fast');
  await asked.getByRole('textbox').fill('60');
  await asked.getByRole('button', { name: 'Tell' }).click();
  const fast = panel.locator('.finding', { hasText: 'turns a minute jerk' });
  await expect(fast).toBeVisible();
  await expect(asked).toHaveCount(0);
  await axe(page, 'something was told');
  await fast.getByRole('button', { name: /turns a minute/ }).click();
  await expect(panel).toContainText('Noted.');
  await expect(fast).toHaveCount(0);
  await panel.getByRole('button', { name: 'Undo' }).click();
  await expect(fast).toBeVisible();
  await panel.locator('summary', { hasText: 'What you told' }).click();
  await panel.getByRole('button', { name: 'take it back' }).click();
  await expect(fast).toHaveCount(0);

  // What if I did: beside the forecast as it is, and nothing is kept.
  await page.goto('/blends/6');
  await page.locator('.finding', { hasText: 'of it is slippery' }).getByRole('link', { name: 'What if I did?' }).click();
  await expect(page.locator('.besideside')).toContainText('If you did: Slippery fibre 30 %');
  await expect(page.locator('.besideside img').first()).toBeVisible();
  await axe(page, 'what if');
  await page.goto('/blends/6');
  await expect(page.locator('.finding', { hasText: 'of it is slippery' })).toBeVisible();

  // Pressed where its lay-up has to follow: both are mended, and taken back together.
  await page.locator('.finding', { hasText: 'of it is slippery' }).getByRole('button', { name: /^Slippery fibre 30/ }).click();
  await expect(panel).toContainText('its lay-up follows');
  await page.goto('/layups/1');
  await expect(page.locator('.bedfacts')).toContainText('all laid');
  await page.goBack();
  await expect(page.locator('.finding', { hasText: 'of it is slippery' })).toHaveCount(0);

  // How a lot is: it waits on the shelf until it is put right.
  await page.goto('/lots/5');
  await page.locator('.how summary').click();
  await page.getByLabel('Was it dyed by hand?').selectOption('yes');
  await page.getByRole('button', { name: 'Save how it is' }).click();
  await expect(page.getByLabel('Was it dyed by hand?')).toHaveValue('1');
  await axe(page, 'how a lot is');
  await page.goto('/shelf');
  const waits = page.locator('.waitlots');
  await waits.locator('summary').click();
  await expect(waits).toContainText('was dyed by hand: test on white, wet');
  await axe(page, 'lots that wait');
  for (const width of [820, 390]) {
    await page.setViewportSize({ width, height: 844 });
    for (const path of ['/lots/5', '/shelf', '/layups/1/card', '/advice/R19']) {
      await page.goto(path);
      expect(await page.evaluate(() => document.documentElement.scrollWidth), path).toBeLessThanOrEqual(width);
    }
  }
  // On a phone the look folds to its count.
  await page.goto('/blends/6');
  await expect(panel.locator('summary').first()).toContainText('hint');
  await expect(panel.locator('.finding').first()).toBeHidden();
  await panel.locator('summary').first().click();
  await expect(panel.locator('.finding').first()).toBeVisible();
});

test('a reason that is being typed stays while an answer comes 400 ms late and sorts the findings anew', async ({ page }) => {
  await page.goto('/blends/6');
  const third = page.locator('.second .finding', { hasText: 'A gram of deep teal Merino colours' });
  await third.locator('summary').click();
  const { quiet } = await late(page, 400);
  await page.getByLabel('Passes planned').fill('5');
  await page.getByLabel('Passes planned').press('Enter');
  await third.getByRole('textbox').click();
  await page.keyboard.type('I like what fine wool does to a colour', { delay: 40 });
  await quiet();
  await expect(third.getByRole('textbox')).toBeFocused();
  await expect(third.getByRole('textbox')).toHaveValue('I like what fine wool does to a colour');
  // Once the field is left the findings stand in their order; what was typed goes along.
  await page.getByLabel('Passes planned').focus();
  await expect(page.locator('.second .finding').filter({ hasText: '5 passes break more' })).toHaveCount(1);
  await expect(page.locator('.second > details > .finding').filter({ hasText: 'A gram of deep teal' })).toHaveCount(0);
  await page.locator('.second summary', { hasText: 'more' }).first().click();
  await third.locator('summary').click();
  await expect(third.getByRole('textbox')).toHaveValue('I like what fine wool does to a colour');
});
