// Sends JSON, or a form with a file, to this program. Gives the answer's JSON, or throws a Problem
// with the status and the problem document; status 0 means no connection.
export class Problem extends Error {
  constructor(status, body) {
    super(body.detail || 'The program did not answer.');
    this.status = status;
    this.body = body;
  }
}

export async function send(url, body) {
  const file = body instanceof FormData;
  const headers = { Accept: 'application/json', ...(file ? {} : { 'Content-Type': 'application/json' }) };
  let res;
  try {
    res = await fetch(url, { method: 'POST', headers, body: file ? body : JSON.stringify(body) });
  } catch {
    throw new Problem(0, { detail: 'No connection to the program. Trying again.' });
  }
  const data = await res.json().catch(() => ({}));
  if (res.status === 401) throw new Problem(401, { detail: signedOut });
  if (!res.ok) throw new Problem(res.status, data);
  return data;
}

const signedOut = 'You were signed out. Sign in in another tab; what you typed waits here, and goes on by itself.';

// newKey is a key of its own for what is told once.
export const newKey = () => Array.from(crypto.getRandomValues(new Uint8Array(16)), (b) => b.toString(16).padStart(2, '0')).join('');

// untilAnswered asks again as long as there is no answer, or one that says to come again. waiting
// hears what is said meanwhile, and ends it with false.
export async function untilAnswered(ask, waiting, again = [0, 401], every = 1500) {
  for (;;) {
    try {
      return await ask();
    } catch (p) {
      if (!again.includes(p.status) || waiting(p.message) === false) throw p;
    }
    await pause(every);
  }
}

// wrongOf is what a refusal says, in one line.
export const wrongOf = (p) => [...new Set((p.body.errors || []).map((e) => e.message))].join(' ') || p.message;

// inTurn is send for what computes for long: where the program says that
// others are being computed it asks again, as long as waiting(what it said)
// does not return false.
export const inTurn = (url, body, waiting) => untilAnswered(() => send(url, body), waiting, [503], 1000);

export async function get(url) {
  const res = await fetch(url, { headers: { Accept: 'application/json' } });
  if (!res.ok) throw new Problem(res.status, await res.json().catch(() => ({})));
  return res.json();
}

// read takes the data that the page carries.
export const read = (id) => JSON.parse(document.getElementById(id).textContent);

export const pause = (ms) => new Promise((done) => setTimeout(done, ms));
