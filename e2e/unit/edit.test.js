// A page that saves as it goes: one change after the other, and no window over another.
import { test } from 'node:test';
import assert from 'node:assert/strict';
import { pageOf, program, script, settle } from './page.js';

const window = pageOf(`<main id="page" x-data="piece"><input id="amount" name="amount 3" x-field="view.amount" x-on:typed="typed($event)">
<input x-ref="what"><p x-text="status"></p></main>`);
const { default: Alpine } = await script('vendor/alpine.js');
const { editing, adder, settled } = await script('js/edit.js');
Alpine.data('piece', () => ({
  ...editing,
  ...adder,
  view: { input: { a: 1 }, version: 1, amount: '1' },
  at() { return '/piece/1/change'; },
  body(field, key, text) { return { change: { verb: field, key: Number(key) }, typed: { text } }; },
}));
Alpine.start();
await settle();
const page = Alpine.$data(window.document.getElementById('page'));
const el = window.document.getElementById('amount');

test('changes go one after the other, each on what the one before gave', async () => {
  const p = program();
  const both = Promise.all([page.change({ change: { verb: 'a' } }), page.change(() => ({ change: { verb: 'b', on: page.view.version } }))]);
  await settle();
  assert.equal(p.asked.length, 1, 'the second waits');
  assert.equal(p.asked[0].body.version, 1);
  await p.lost(); // no connection: the same again
  assert.equal(page.status, 'No connection to the program. Trying again.');
  await new Promise((done) => setTimeout(done, 1600));
  assert.deepEqual(p.asked[1], p.asked[0]);
  await p.answer(200, { input: { a: 2 }, version: 2, amount: '2' });
  assert.deepEqual([p.asked[2].body.version, p.asked[2].body.change.on, p.asked[2].body.input], [2, 2, { a: 2 }]);
  await p.answer(200, { input: { a: 3 }, version: 3, amount: '3' });
  assert.deepEqual(await both, [true, true]);
  assert.equal(page.status, 'Saved');
});

test('what is refused is told at its field, stays in it, and holds the page until it is seen', async () => {
  const p = program();
  el.focus();
  el.value = 'ten';
  el.dispatchEvent(new Event('input', { bubbles: true }));
  el.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }));
  await settle();
  assert.deepEqual([p.asked[0].body.change, p.asked[0].body.typed], [{ verb: 'amount', key: 3 }, { text: 'ten' }]);
  await p.answer(422, { detail: 'No.', errors: [{ field: 'text', message: 'Enter a number.' }] });
  assert.equal(page.fault('amount 3'), 'Enter a number.');
  assert.equal(page.faultOf('3'), 'Enter a number.');
  assert.equal(el.value, 'ten');
  assert.equal(await settled(), false, 'something is not kept');
  el.value = '10';
  el.dispatchEvent(new Event('input', { bubbles: true }));
  const leaving = settled();
  await settle();
  await p.answer(200, { input: { a: 10 }, version: 4, amount: '10' });
  assert.equal(await leaving, true);
  assert.equal(page.fault('amount 3'), '');
});

test('another window was first: the page goes on unsaved until one is chosen, and the other stays a step', async () => {
  const p = program();
  const done = page.change({ change: { verb: 'mine' } });
  await settle();
  await p.answer(409, { detail: 'Another window was first.', current: { input: { a: 99 }, version: 9, amount: '99' } });
  assert.equal(page.conflict.version, 9);
  assert.equal(p.asked[1].body.keep, false, 'what she did is shown, not kept');
  await p.answer(200, { input: { a: 11 }, version: 4, amount: '11' });
  await done;
  assert.equal(page.status, 'Not saved');
  page.takeTheirs();
  await settle();
  assert.deepEqual([p.asked[2].body.version, p.asked[2].body.input], [9, { a: 11 }], 'hers is kept first, as a step');
  await p.answer(200, { input: { a: 11 }, version: 10, amount: '11' });
  assert.deepEqual([p.asked[3].body.version, p.asked[3].body.input], [10, { a: 99 }]);
  await p.answer(200, { input: { a: 99 }, version: 11, amount: '99' });
  assert.equal(page.conflict, null);
  assert.equal(page.view.input.a, 99);
});

test('what was to be added and is refused comes back, or waits beside what is typed since', async () => {
  const p = program();
  const { what } = page.$refs;
  what.value = 'first';
  const one = page.addFrom(['what'], (t) => ({ change: { verb: 'add', name: t.what } }), 'add');
  assert.equal(what.value, '', 'the field is free at once');
  what.value = 'sec';
  await settle();
  await p.answer(422, { detail: 'No.', errors: [{ field: 'name', message: 'Taken.' }] });
  assert.equal(await one, false);
  assert.equal(what.value, 'sec', 'what she types now is not written over');
  assert.deepEqual(page.refusedAdds.map((r) => [r.what, r.said]), [['first', 'Taken.']]);
  page.bringBack(page.refusedAdds[0]);
  assert.equal(what.value, 'first');
});
