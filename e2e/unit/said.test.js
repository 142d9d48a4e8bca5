// A word of the field in a sentence of the program is a link to what it means, and the sentence reads as it was given.
import { test } from 'node:test';
import assert from 'node:assert/strict';
import { pageOf, script, settle } from './page.js';

const window = pageOf('<main x-data="one"><p id="p" x-said="text"></p></main>');
const { default: Alpine } = await script('vendor/alpine.js');
await script('js/said.js');
Alpine.data('one', () => ({ text: '' }));
Alpine.start();
await settle();
const el = window.document.getElementById('p');
const page = Alpine.$data(el);

test('words of the field are links, and nothing of a sentence is markup', async () => {
  for (const [text, links] of [
    ['It is then clearly lighter (6.0 CIEDE2000).', ['/guide#ciede2000']],
    ['marled, then heathered; marledness is no word', ['/guide#marled', '/guide#heathered']],
    ['<b>streaky</b> & <img src=x>', ['/guide#streaky']],
    ['', []],
  ]) {
    page.text = text;
    await settle();
    assert.equal(el.textContent, text);
    assert.deepEqual([...el.children].map((a) => a.getAttribute('href')), links);
  }
});
