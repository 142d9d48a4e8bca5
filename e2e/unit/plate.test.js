// Choices at the scale: they stand at once, and what the scale said before it heard of them does not put them back.
import { test } from 'node:test';
import assert from 'node:assert/strict';
import { pageOf, program, script, settle } from './page.js';

const cells = [{ name: 'a', wanted: '10', wanted_n: 10, step_n: 0.1, done: false }];
const view = { id: 5, version: 1, unit: 'g', by_fibre: false, units: [{ cells, done: false }] };
const window = pageOf(`<script type="application/json" id="scale-data">${JSON.stringify(view)}</script>
<main id="page" x-data="scale"><input x-ref="said" x-model="text">
<input type="radio" id="dishes" name="mode" x-bind:checked="isMode('dishes')" x-on:change="setMode('dishes')"></main>`);
const p = program(/\/plate$/);
const { default: Alpine } = await script('vendor/alpine.js');
await script('js/scale.js');
await settle();
const page = Alpine.$data(window.document.getElementById('page'));
const dishes = window.document.getElementById('dishes');
const says = (more) => page.hear({ ...page.live, mine: true, at: { unit: 0, component: 0 }, version: 1, ...more });
const press = () => {
  dishes.checked = true;
  dishes.dispatchEvent(new window.Event('change'));
};

test('what was chosen stands while older readings come in, and then what the program shows', async () => {
  says({ changes: 3, mode: 'bowl' });
  await settle();
  assert.equal(dishes.checked, false);
  press();
  says({ changes: 3, mode: 'bowl' });
  await settle();
  assert.equal(dishes.checked, true, 'said before it heard of the choice');
  await p.answer(200, { changes: 5 });
  says({ changes: 4, mode: 'bowl' });
  await settle();
  assert.equal(dishes.checked, true, 'said between another change and this one');
  says({ changes: 5, mode: 'dishes' });
  says({ changes: 6, mode: 'bowl' });
  await settle();
  assert.equal(dishes.checked, false, 'changed in another window since');
});

test('a choice that is refused is given back, with the reason', async () => {
  press();
  await settle();
  await p.answer(422, { detail: 'Fibre goes into a bowl or into dishes.' });
  assert.equal(dishes.checked, false);
  assert.equal(page.status, 'Fibre goes into a bowl or into dishes.');
});

test('the scale is chosen in the same way', async () => {
  says({ auto: true, scale_id: 1 });
  page.setScale({ target: { value: '2' } });
  says({ auto: true, scale_id: 1 });
  assert.equal(page.scaleNow(), 2);
  await settle();
  await p.answer(200, { changes: 7 });
  says({ changes: 7, auto: false, scale_id: 2 });
  assert.equal(page.scaleNow(), 2);
  says({ changes: 8, auto: true, scale_id: 1 });
  assert.equal(page.scaleNow(), 0, 'changed in another window since');
});

test('what is to be taken while it moves is taken once it rests, also where that takes long; not where something was taken off', async () => {
  const real = performance.now.bind(performance);
  const taken = [];
  page.enter = (text, mg) => taken.push([text, mg]);
  const moving = { heard: true, auto: false, phase: 'filling', stable: false, net: '2', net_mg: 2000, together: false };
  says(moving);
  assert.equal(page.takeLive(), true);
  assert.match(page.status, /as soon as it rests/);
  performance.now = () => real() + 60_000; // a slow machine
  says({ ...moving, net: '1', net_mg: 1000, stable: true });
  assert.deepEqual(taken, []);
  assert.match(page.status, /taken off before it rested/);
  says(moving);
  page.takeLive();
  performance.now = () => real() + 120_000;
  says({ ...moving, net: '9.9', net_mg: 9900 });
  assert.deepEqual(taken, [], 'it still moves');
  says({ ...moving, net: '10', net_mg: 10_000, stable: true });
  assert.deepEqual(taken, [['10', 10_000]]);
  performance.now = real;
});
