// What pages send, without a browser.
import { test } from 'node:test';
import assert from 'node:assert/strict';
import { newKey, Problem, send, untilAnswered, wrongOf } from '../../web/pages/frame/static/js/net.js';

const answering = (...answers) => {
  const asked = [];
  globalThis.fetch = async (url, init) => {
    asked.push({ url, ...init });
    const next = answers.shift();
    if (!next) throw new TypeError('failed to fetch');
    return { ok: next.status < 400, status: next.status, json: async () => next.body };
  };
  return asked;
};

test('what is sent is sent again until there is an answer, and no more', async () => {
  const asked = answering(null, null, { status: 200, body: { kept: true } });
  const heard = [];
  const body = await untilAnswered(() => send('/x', { key: 'k' }), (said) => { heard.push(said); }, [0], 1);
  assert.deepEqual(body, { kept: true });
  assert.equal(asked.length, 3);
  assert.ok(asked.every((a) => a.body === '{"key":"k"}'), 'the same each time, with the same key');
  assert.deepEqual(heard, Array(2).fill('No connection to the program. Trying again.'));
});

test('what is refused is told at once, in one line', async () => {
  const asked = answering({ status: 422, body: { detail: 'No.', errors: [{ field: 'a', message: 'Too much.' }, { field: 'b', message: 'Too much.' }] } });
  const p = await untilAnswered(() => send('/x', {}), () => {}, [0], 1).catch((e) => e);
  assert.ok(p instanceof Problem);
  assert.equal(asked.length, 1);
  assert.equal(wrongOf(p), 'Too much.');
  assert.equal(wrongOf(new Problem(409, { detail: 'Another window was first.' })), 'Another window was first.');
});

test('who does not want to wait ends it', async () => {
  answering({ status: 503, body: { detail: 'Others are being computed.' } });
  const p = await untilAnswered(() => send('/x', {}), () => false, [503], 1).catch((e) => e);
  assert.equal(p.status, 503);
});

test('a file goes as a form', async () => {
  const asked = answering({ status: 200, body: {} });
  const form = new FormData();
  form.append('file', new Blob(['x']));
  await send('/x', form);
  assert.equal(asked[0].body, form);
  assert.equal(asked[0].headers['Content-Type'], undefined, 'the browser says it, with its boundary');
});

test('keys are their own, and long enough for the ledger', () => {
  const keys = new Set(Array.from({ length: 1000 }, newKey));
  assert.equal(keys.size, 1000);
  assert.ok([...keys].every((k) => /^[0-9a-f]{32}$/.test(k)));
});
