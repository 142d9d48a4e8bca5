// A colour that is typed is a typed value, one that is picked is chosen by eye; what is said otherwise stays.
import { test } from 'node:test';
import assert from 'node:assert/strict';
import { pageOf, script } from './page.js';

const window = pageOf(`<table><tr><td><input id="hex0"></td><td><input type="color" class="picker" data-for="hex0"></td>
<td><select name="source0"><option value="picker"></option><option value="value"></option><option value="photo"></option></select></td></tr></table>`);
const at = (q) => window.document.querySelector(q);
const put = (q, value, what = 'input') => {
  at(q).value = value;
  at(q).dispatchEvent(new Event(what, { bubbles: true }));
};

test('how a colour is known follows from how it was given', async () => {
  await script('js/swatch.js');
  put('#hex0', '#3a6ea5');
  assert.deepEqual([at('.picker').value, at('select').value], ['#3a6ea5', 'value']);
  put('.picker', '#102030');
  assert.deepEqual([at('#hex0').value, at('select').value], ['#102030', 'picker']);
  put('#hex0', '#1020');
  assert.equal(at('select').value, 'picker', 'half a colour is none');
  put('select', 'photo', 'change');
  put('#hex0', '#ffffff');
  assert.equal(at('select').value, 'photo');
});
