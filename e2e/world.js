// Each test has a program of its own, with its own data, and a page that fails
// the test on console errors and on requests to another host.
import { test as base, expect } from '@playwright/test';
import { AxeBuilder } from '@axe-core/playwright';
import { spawn } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const program = new URL('../bin/fairtangle', import.meta.url).pathname;

// world is a directory with the sample world as the program lays it out, made once for each worker.
let made;
function world() {
  made ??= (async () => {
    const dir = join(mkdtempSync(join(tmpdir(), 'fairtangle-world-')), 'data');
    const child = spawn(program, ['demo', '-addr', '127.0.0.1:0', '-data', dir], { stdio: ['ignore', 'pipe', 'ignore'] });
    await new Promise((resolve, reject) => {
      child.stdout.once('data', resolve);
      child.once('exit', reject);
    });
    const gone = new Promise((done) => { child.once('exit', done); });
    child.kill('SIGINT');
    await gone;
    process.on('exit', () => rmSync(join(dir, '..'), { recursive: true, force: true }));
    return dir;
  })();
  return made;
}

// start starts a program in an empty home: as a verb says, or, as `world`, on a sample world that is a maker's own, without the devices that
// stand in for real ones (`demo` has those, and lays the world out anew, which takes a second).
export async function start(verb, { args = [], env = {} } = {}) {
  const home = mkdtempSync(join(tmpdir(), 'fairtangle-'));
  const dir = join(home, 'data'); // copies lie beside it
  let child;
  let logged = '';
  const run = (as, addr) => new Promise((resolve, reject) => {
    child = spawn(program, [as, '-addr', addr, '-data', dir, ...args], { env: { ...process.env, ...env }, stdio: ['ignore', 'pipe', 'pipe'] });
    child.stderr.on('data', (d) => { logged += d; });
    child.stdout.on('data', (d) => {
      const m = /listening on (\S+)/.exec(String(d));
      if (m) resolve(m[1]);
    });
    child.on('exit', (code) => reject(new Error(`the program ended with ${code}`)));
  });
  const end = async (signal) => {
    if (child.exitCode !== null) return; // it has ended
    const gone = new Promise((done) => { child.on('exit', done); });
    child.kill(signal);
    await gone;
  };
  if (verb === 'world') cpSync(await world(), dir, { recursive: true });
  const url = await run(verb === 'world' ? 'serve' : verb, '127.0.0.1:0');
  return {
    url,
    // errors are what it logged as an error.
    errors: () => logged.split('\n').filter((l) => /level=ERROR/.test(l)).map((l) => l.slice(0, 600)),
    // away ends it as a maker does; back starts it again, with her data, at the same place.
    away: () => end('SIGINT'),
    back: () => run('serve', new URL(url).host),
    // cut is a power cut: the program is gone at once, and comes back with what is on disk.
    async cut() {
      await end('SIGKILL');
      await run('serve', new URL(url).host);
    },
    async stop() {
      await end('SIGINT');
      rmSync(home, { recursive: true, force: true });
    },
  };
}

export const test = base.extend({
  verb: ['serve', { option: true }],
  // Sentences that a test expects on the console, such as a refused request.
  expected: [[], { option: true }],
  program: async ({ verb }, use) => {
    const p = await start(verb);
    await use(p);
    await p.stop();
  },
  baseURL: async ({ program }, use) => use(program.url),
  context: async ({ context, program, expected }, use) => {
    const wrong = [];
    context.on('console', (m) => {
      if (m.text().includes('registration blocked by Playwright')) return; // what is kept for later is tried in a test of its own
      if (m.type() === 'error' || m.type() === 'warning') wrong.push(`${m.text()} ${m.location().url}`);
    });
    context.on('weberror', (e) => wrong.push(String(e.error())));
    context.on('request', (r) => {
      if (!r.url().startsWith(program.url) && !/^(data|blob):/.test(r.url())) wrong.push(`request to ${r.url()}`);
    });
    await use(context);
    expect(wrong.filter((w) => !expected.some((e) => w.includes(e)))).toEqual([]);
  },
});

export { expect };

// axe fails the test when the page as it stands has a finding; rules names
// single ones to look at.
export async function axe(page, what, rules) {
  // No frames here: no page of its own for them. Only what is wrong is told, which takes half the time.
  const look = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] });
  const found = await (rules ? look.withRules(rules) : look.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'])).analyze();
  expect(found.violations.map((v) => `${what}: ${v.id}: ${v.nodes.map((n) => n.target.join(' ')).slice(0, 4).join(', ')}`)).toEqual([]);
}

// opened goes to a page and waits until it is drawn: loaded, with its fonts, its
// scripts run and two frames shown.
export async function opened(page, path) {
  await page.goto(path);
  await page.evaluate(() => document.fonts.ready.then(() => new Promise((done) => {
    requestAnimationFrame(() => requestAnimationFrame(() => done()));
  })));
}

// settled waits until the blend page has nothing left to save.
export async function settled(page) {
  await expect(page.locator('.saved')).toHaveText('Saved');
}

// tabTo presses Tab until the element has the focus, as someone without a
// mouse does.
export async function tabTo(page, locator, most = 120) {
  let el = null; // found once, and again where the page was drawn anew: to find it by its role takes as long as ten presses
  for (let i = 0; i < most; i++) {
    el ??= await locator.elementHandle();
    const at = await el.evaluate((e) => (e.isConnected ? e === document.activeElement : null)).catch(() => null);
    if (at) return;
    if (at === null) el = null;
    else await page.keyboard.press('Tab');
  }
  throw new Error(`not reached by Tab: ${locator}`);
}

// lay lays a blend up by a builder.
export async function lay(page, blend, { equipment = 'Standard drum', builder, repeats }) {
  await page.goto(`/blends/${blend}/layup`);
  await page.getByRole('radio', { name: new RegExp(equipment) }).check();
  await page.getByRole('radio', { name: new RegExp(`^${builder}`) }).check();
  if (repeats) await page.getByLabel('Times over').fill(String(repeats));
  await page.getByRole('button', { name: 'Lay it up' }).click();
  await expect(page.locator('.layers')).toBeAttached();
}

// late lets every answer to a change or a search arrive late. It gives what was
// sent, in order.
export async function late(page, delay) {
  const sent = [];
  let open = 0;
  await page.route((url) => /\/(change|weigh|undo|off|find|mend|dull|read|palette|name)$|\/pick\?|\/weigh\?|\/shelf\?/.test(url.href), async (route) => {
    const r = route.request();
    if (r.isNavigationRequest()) return route.continue();
    if (r.method() === 'POST') sent.push(r.postDataJSON());
    open += 1;
    try {
      const answer = await route.fetch();
      await new Promise((done) => setTimeout(done, delay));
      await route.fulfill({ response: answer });
    } catch { /* the page has gone on */ } finally {
      open -= 1;
    }
    return null;
  });
  // A change that waits for the one before is not sent yet when that is answered: the page says that it saves until both are kept.
  const saving = () => page.locator('.saved').filter({ hasText: 'Saving' }).count();
  return { sent, quiet: () => expect.poll(async () => open + await saving(), { timeout: 30_000 }).toBe(0) };
}
