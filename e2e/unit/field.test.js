// What is typed in a field is the maker's until her own change is answered, whatever arrives meanwhile.
import { test } from 'node:test';
import assert from 'node:assert/strict';
import { chance, pageOf, script, settle } from './page.js';

const window = pageOf('<main x-data="one"><input id="f" x-field="stands" x-on:typed="heard($event)"><input id="other"></main>');
const { default: Alpine } = await script('vendor/alpine.js');
const { unsaved, commitAll } = await script('js/field.js');
const open = []; // changes on their way: what was typed, and how they are answered
Alpine.data('one', () => ({
  stands: '0',
  heard(e) { e.detail.sent(new Promise((done) => { open.push({ text: e.detail.text, done }); })); },
}));
Alpine.start();
await settle();
const el = window.document.getElementById('f');
const page = Alpine.$data(el);
const type = (text) => {
  el.value = text;
  el.dispatchEvent(new Event('input', { bubbles: true }));
};
const key = (name) => el.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true }));

test('what is typed stays while answers to other changes arrive, and goes out once', async () => {
  el.focus();
  type('4');
  page.stands = '1';
  await settle();
  assert.equal(el.value, '4', 'an earlier answer goes around it');
  assert.equal(unsaved(), el);
  key('Enter');
  page.stands = '2';
  await settle();
  assert.deepEqual(open.map((o) => o.text), ['4']);
  assert.equal(el.value, '4', 'hers is not answered yet');
  page.stands = '4.0';
  open.shift().done(true);
  await settle();
  assert.equal(el.value, '4.0', 'then it shows what stands there');
  assert.equal(unsaved(), null);
});

test('what is refused stays until it is changed or given up', async () => {
  type('nonsense');
  commitAll();
  await settle();
  page.stands = '7';
  open.shift().done(false);
  await settle();
  assert.equal(el.value, 'nonsense');
  assert.equal(unsaved(), el, 'leaving the page asks for it');
  key('Escape');
  await settle();
  assert.equal(el.value, '7');
  assert.equal(unsaved(), null);
});

test('whatever comes in whatever order: a field with something unsaved shows it, one without shows what stands', async () => {
  for (let seed = 1; seed <= 40; seed += 1) {
    const next = chance(seed);
    let hers = null; // what she typed last and was not kept
    for (let step = 0; step < 14; step += 1) {
      const act = next(5);
      if (act === 0) {
        hers = String(next(1000));
        type(hers);
      } else if (act === 1) {
        key('Enter');
      } else if (act === 2) {
        page.stands = String(next(1000));
      } else if (act === 3 && open.length) {
        const ok = next(3) > 0;
        const { text, done } = open.shift();
        if (ok) page.stands = text;
        done(ok);
      } else if (act === 4) {
        window.document.getElementById('other').focus();
        el.focus();
      }
      await new Promise((done) => setTimeout(done));
      if (unsaved()) assert.equal(el.value, hers, `seed ${seed}, step ${step}: what was typed is gone`);
    }
    commitAll();
    while (open.length) {
      const { text, done } = open.shift();
      page.stands = text;
      done(true);
      await new Promise((done2) => setTimeout(done2));
    }
    await settle();
    window.document.getElementById('other').focus();
    if (unsaved()) key('Escape');
    assert.equal(el.value, page.stands, `seed ${seed}: it shows something else than what stands`);
  }
});
