// At the scale: what is entered is kept until the program has it, once, in its order.
import { test } from 'node:test';
import assert from 'node:assert/strict';
import { pageOf, program, script, settle } from './page.js';

const cells = (done) => ['a', 'b', 'c'].map((name, i) => ({ name, wanted: '10', wanted_n: 10, step_n: 0.1, done: done > i, weighed: done > i ? '10' : '' }));
const viewOf = (version, done) => ({ id: 5, version, unit: 'g', by_fibre: false, undo: done > 0, units: [{ cells: cells(done), done: done === 3 }] });
const window = pageOf(`<script type="application/json" id="scale-data">${JSON.stringify(viewOf(1, 0))}</script>
<main id="page" x-data="scale"><input x-ref="said" x-model="text"></main>`);
const p = program(/\/weigh$/);
const { default: Alpine } = await script('vendor/alpine.js');
await script('js/scale.js');
await settle();
const page = Alpine.$data(window.document.getElementById('page'));

test('three readings as fast as they are typed: each is sent once, with a key of its own, after the one before is kept', async () => {
  page.enter('10.1');
  page.enter('9.9');
  page.text = '12';
  await settle();
  let sent = p.asked;
  assert.equal(sent.length, 1);
  assert.equal(page.busy(), true);
  assert.equal(page.pending(), '10.1 g of a, 9.9 g of b');
  await p.lost();
  await new Promise((done) => setTimeout(done, 1600));
  sent = p.asked;
  assert.deepEqual(sent[1].body, sent[0].body, 'the same reading with the same key');
  await p.answer(200, { view: viewOf(2, 1) });
  sent = p.asked;
  assert.deepEqual([sent[2].body.component, sent[2].body.text, sent[2].body.version], [1, '9.9', 2]);
  assert.notEqual(sent[2].body.key, sent[0].body.key);
  assert.equal(page.text, '12', 'what is being typed for the third is not touched');
  await p.answer(200, { view: viewOf(3, 2) });
  assert.equal(page.busy(), false);
  assert.deepEqual([page.at.component, page.text], [2, '12']);
});

test('a reading that is off waits for a choice, and what was typed since stays', async () => {
  page.enter('14');
  await settle();
  await p.answer(200, { ask: { verdict: 'over', options: [{ letter: 'K', policy: 'keep' }, { letter: 'S', policy: 'scale' }] } });
  assert.equal(page.choice.verdict, 'over');
  assert.deepEqual([page.at.component, page.text], [2, '14']);
  page.choose('scale');
  await settle();
  const last = p.asked.at(-1).body;
  assert.deepEqual([last.policy, last.text, last.component], ['scale', '14', 2]);
  await p.answer(422, { detail: 'No.', errors: [{ field: 'text', message: 'There are 12 g.' }] });
  assert.deepEqual([page.at.component, page.text, page.problem()], [2, '14', 'There are 12 g.'], 'refused, it is back where it was typed');
  page.enter('10');
  await settle();
  await p.answer(200, { view: viewOf(4, 3) });
  assert.equal(page.allDone(), true);
});
