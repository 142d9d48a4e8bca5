// A page without a browser: jsdom, what it does not have, and a program that answers when it is told to.
import { cpSync, existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { JSDOM } from 'jsdom';

// The scripts of all rooms beside each other, as the program serves them.
const served = mkdtempSync(join(tmpdir(), 'scripts-'));
process.on('exit', () => rmSync(served, { recursive: true }));
writeFileSync(join(served, 'package.json'), '{"type":"module"}');
const rooms = fileURLToPath(new URL('../../web/pages/', import.meta.url));
for (const room of readdirSync(rooms)) {
  const from = join(rooms, room, 'static');
  if (existsSync(from)) cpSync(from, served, { recursive: true });
}
export const script = (name) => import(pathToFileURL(join(served, name)).href);

// pageOf opens a page with a body.
export function pageOf(body) {
  const { window } = new JSDOM(`<!doctype html><body>${body}</body>`, { url: 'http://localhost/', pretendToBeVisual: true });
  for (const name of Object.getOwnPropertyNames(window)) {
    if (!(name in globalThis) || /Event$|^(document|requestAnimationFrame|localStorage|sessionStorage|FormData)$/.test(name)) globalThis[name] = window[name];
  }
  globalThis.window = window;
  window.matchMedia = () => ({ matches: false });
  window.scrollBy = () => {};
  globalThis.EventSource = class { close() {} };
  return window;
}

// program keeps what is asked of it until a test answers, the first question first; what is not
// about this is answered at once, with nothing.
export function program(about = /./) {
  const asked = [];
  const waiting = [];
  globalThis.fetch = (url, init) => new Promise((answer, fail) => {
    if (!about.test(url)) {
      answer({ ok: true, status: 200, json: async () => ({}) });
      return;
    }
    asked.push({ url, body: init.body && JSON.parse(init.body) });
    waiting.push({ answer, fail });
  });
  return {
    asked,
    async answer(status, body) {
      waiting.shift().answer({ ok: status < 400, status, json: async () => body });
      await settle();
    },
    async lost() {
      waiting.shift().fail(new TypeError('failed to fetch'));
      await settle();
    },
  };
}

// settle lets everything happen that waits for nothing from outside.
export async function settle() {
  for (let i = 0; i < 6; i += 1) await new Promise((done) => setTimeout(done, 8));
}

// chance gives numbers below n from a seed, the same ones each time.
export function chance(seed) {
  let s = seed >>> 0;
  return (n) => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0;
    return Math.floor((s / 2 ** 32) * n);
  };
}
