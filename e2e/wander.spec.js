// The wanderer in the real browser: from a seed it presses, types, drags, moves by keys, goes back, opens
// a second window and undoes, on whatever page it has come to, with sensible and silly values. After
// every few acts the program is looked at: all lists open, no script threw, nothing was logged as an
// error. A fault is printed as the shortest list of acts that still shows it.
// WANDER=30 goes on with new seeds for thirty minutes.
import { test, expect, axe, start } from './world.js';

const silly = ['', '-1', '0', '1e9', 'NaN', '99999999999999', '<b>x</b>', '🧶', '0.00001', '1,5', '½', '  ', '../..', 'long '.repeat(60)];
const sensible = ['1', '2', '3', '12.5', '40', '7', 'grey water', '#336699'];
const places = ['/makings', '/shelf', '/makings/1', '/makings/3', '/blends/6', '/blends/1', '/layups/1', '/layups/3',
  '/layups/3/card', '/layups/3/yarn', '/gradients/1',
  '/scraps/1', '/weighouts/1', '/weighouts/1/scale', '/runs/1', '/runs/1/record', '/runs/2', '/needs/1', '/buy', '/notebook', '/day',
  '/workshop', '/scales', '/stock', '/tools', '/colours', '/blends/6/range', '/makings/3/family', '/makings/2/instead',
  '/lots/1', '/lots/29', '/lots/1/edit', '/photos/1', '/calibration', '/equipment/1', '/equipment/1/book', '/kinds', '/bin', '/advice',
  '/makings/1/weighlist', '/blends/9/layup',
  '/blends/6/weigh', '/makings/2/yarn', '/makings/3/whole', '/shelf/several', '/devices', '/copies', '/makings/2/skeins/new', '/yarnsamples/1', '/nowhere'];
const lists = ['/makings', '/shelf', '/buy', '/notebook', '/day', '/bin', '/workshop', '/scraps', '/stock', '/photos', '/kinds',
  '/calibration', '/advice', '/makings/1',
  '/makings/2', '/makings/3', '/api/v1/claims', '/api/v1/lots'];

// numbers draws from a seed (mulberry32, Tommy Ettinger 2017, cited from memory).
function numbers(seed) {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6D2B79F5) >>> 0;
    let t = a;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

// drawn draws an act; which thing of a page it means is a part of 1, so that it means something in
// a shorter list too.
function drawn(next) {
  const kinds = ['go', 'go', 'press', 'press', 'press', 'press', 'press', 'type', 'type', 'type', 'keys', 'drag', 'back', 'window', 'undo'];
  const of = (list) => list[Math.floor(next() * list.length)];
  return { kind: of(kinds), to: of(places), which: next(), far: next(), value: next() < 0.7 ? of(sensible) : of(silly), enter: next() < 0.5 };
}

const pressable = ['button:visible:not([disabled])', 'a[href^="/"]:visible:not([download]):not([href*=".csv"]):not([href*=".ics"])',
  'summary:visible', 'label:visible'].join(', ');
const typable = 'input:visible:not([type=file]):not([disabled]):not([type=radio]):not([type=checkbox]), textarea:visible, select:visible';

const draggable = '[role=slider]:visible, input[type=range]:visible, canvas:visible, [tabindex="0"]:visible';

const at = async (page, selector, which) => {
  const list = page.locator(selector);
  const n = await list.count();
  return n ? list.nth(Math.floor(which * n)) : null;
};

// done does an act; that it finds nothing to do is no fault.
async function done(page, act) {
  const soon = { timeout: 600 };
  switch (act.kind) {
    case 'go': // as a press does; what drives the browser from outside is lost where a page is just loading itself anew
      await page.evaluate((to) => window.location.assign(to), act.to);
      return page.waitForURL((u) => u.pathname === act.to);
    case 'back': return page.goBack({ waitUntil: 'load', timeout: 4000 });
    case 'undo': return page.getByRole('button', { name: /^(Undo|Take back|Redo)/ }).first().click(soon);
    case 'press': return (await at(page, pressable, act.which))?.click(soon);
    case 'keys': {
      await (await at(page, '[role=slider], [role=button], input[type=range], [tabindex="0"]', act.which))?.focus(soon);
      for (const key of ['ArrowRight', 'ArrowRight', 'ArrowLeft', 'Enter']) await page.keyboard.press(key);
      return null;
    }
    case 'drag': { // by the mouse, to the side and a little down, and let go there
      const thing = await at(page, draggable, act.which);
      await thing?.scrollIntoViewIfNeeded(soon);
      const box = await thing?.boundingBox();
      if (!box) return null;
      const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
      await page.mouse.move(x, y);
      await page.mouse.down();
      await page.mouse.move(x + (act.far - 0.5) * 400, y + act.far * 40, { steps: 4 });
      return page.mouse.up();
    }
    case 'type': {
      const field = await at(page, typable, act.which);
      if (!field) return null;
      if (await field.evaluate((el) => el.tagName === 'SELECT')) {
        const n = await field.locator('option').count();
        return field.selectOption({ index: Math.floor(act.which * 7919) % n }, soon);
      }
      await field.fill(act.value, soon);
      return page.keyboard.press(act.enter ? 'Enter' : 'Tab');
    }
    default: { // another window beside it
      const other = await page.context().newPage();
      await other.goto(page.url(), { timeout: 8000 }).catch(() => {});
      await (await at(other, pressable, act.which))?.click(soon).catch(() => {});
      await other.waitForTimeout(200);
      return other.close();
    }
  }
}

// walk does acts in a program of its own, and gives what is wrong, or nothing.
async function walk(browser, acts, met) {
  const program = await start('demo');
  const context = await browser.newContext({ baseURL: program.url, viewport: { width: 1280, height: 800 } });
  const wrong = [];
  context.on('weberror', (e) => wrong.push(`a script threw: ${e.error()}`));
  context.on('console', (m) => {
    const meant = /status of (4\d\d|503)|ERR_(ABORTED|EMPTY|CONNECTION)/.test(m.text());
    if (m.type() === 'error' && !meant) wrong.push(`the console says: ${m.text()} ${m.location().url}`);
  });
  context.setDefaultTimeout(8000);
  context.setDefaultNavigationTimeout(15_000);
  await context.addInitScript(() => { window.print = () => {}; });
  const page = await context.newPage();
  page.on('dialog', (d) => d.accept().catch(() => {}));
  let steps = 0;
  const look = async () => {
    for (const path of lists) {
      const got = await context.request.get(path);
      if (got.status() !== 200 && got.status() !== 404) wrong.push(`${path} answers ${got.status()}`);
    }
    wrong.push(...program.errors());
  };
  try {
    await page.goto('/makings');
    for (const act of acts) {
      await done(page, act).catch((e) => { // gone, covered, or not to be pressed: but what is gone to opens
        if (act.kind === 'go' && e.name === 'TimeoutError') wrong.push(`${act.to} does not open`);
      });
      steps += 1;
      // Back before the first page, or to a form that was sent, which this browser keeps no page of.
      // The answer to what was sent before may come on top of that.
      if (!page.url().startsWith(program.url)) {
        await page.goto('/makings').catch((e) => {
          if (!e.message.includes('interrupted by another navigation')) throw e;
        });
        await page.waitForURL((url) => url.href.startsWith(program.url));
      }
      if (steps % 6 === 0) await look();
      if (wrong.length) break;
      const kind = new URL(page.url()).pathname.replace(/\d+/g, 'N');
      if (!met.has(kind)) {
        met.add(kind);
        await page.waitForLoadState('load').catch(() => {});
        await axe(page, 'met').catch((e) => { // a page that goes on meanwhile is met another time
          if (/met: /.test(e.message)) wrong.push(`${kind}: ${String(e.message).slice(0, 900)}`);
        });
      }
    }
    if (!wrong.length) await look();
  } finally {
    await context.close();
    await program.stop();
  }
  return { wrong: [...new Set(wrong)], steps };
}

// shortest leaves out what the fault does not need, in halves, quarters and so on, for a while.
async function shortest(browser, acts, until) {
  let list = acts;
  for (let n = 2; list.length > 1 && n <= list.length * 2 && Date.now() < until;) {
    const size = Math.max(1, Math.ceil(list.length / n));
    let shorter = null;
    for (let i = 0; i < list.length && !shorter && Date.now() < until; i += size) {
      const rest = [...list.slice(0, i), ...list.slice(i + size)];
      if (rest.length && (await walk(browser, rest, new Set())).wrong.length) shorter = rest;
    }
    if (shorter) list = shorter;
    else if (size === 1) break;
    else n *= 2;
  }
  return list;
}

const minutes = Number(process.env.WANDER || 0);
const seeds = minutes ? [Date.now() % 1e9] : [11, 12];

for (const seed of seeds) {
  test(`the wanderer, seed ${minutes ? 'of this moment' : seed}`, async ({ browser }) => {
    test.setTimeout(minutes ? (minutes + 10) * 60_000 : 300_000);
    const met = new Set();
    let acts = 0;
    const faults = [];
    for (let s = seed, ends = Date.now() + minutes * 60_000; s === seed || Date.now() < ends; s += 1) {
      const next = numbers(s);
      const list = Array.from({ length: 45 }, () => drawn(next));
      const { wrong, steps } = await walk(browser, list, met);
      acts += steps;
      if (minutes) console.log(`seed ${s}: ${steps} acts, ${met.size} sorts of pages met ${wrong}`);
      if (!wrong.length) continue;
      const short = await shortest(browser, list.slice(0, steps), Date.now() + 120_000);
      faults.push(`seed ${s}: ${wrong.join('; ')}; the shortest list that shows it: ${JSON.stringify(short)}`);
      if (minutes) console.log(faults.at(-1));
    }
    console.log(`${acts} acts, ${met.size} sorts of pages met`);
    expect(faults).toEqual([]);
  });
}
