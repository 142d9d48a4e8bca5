// Sends JSON to this program. Gives the answer's JSON, or throws a Problem
// with the status and the problem document; status 0 means no connection.
export class Problem extends Error {
  constructor(status, body) {
    super(body.detail || 'The program did not answer.');
    this.status = status;
    this.body = body;
  }
}

export async function send(url, body) {
  let res;
  try {
    res = await fetch(url, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
      body: JSON.stringify(body),
    });
  } catch {
    throw new Problem(0, { detail: 'No connection to the program. Trying again.' });
  }
  const data = await res.json().catch(() => ({}));
  if (!res.ok) throw new Problem(res.status, data);
  return data;
}

// inTurn is send for what computes for long: where the program says that
// others are being computed it asks again, as long as waiting(what it said)
// does not return false.
export async function inTurn(url, body, waiting) {
  for (;;) {
    try {
      return await send(url, body);
    } catch (p) {
      if (p.status !== 503 || waiting(p.message) === false) throw p;
    }
    await pause(1000);
  }
}

export async function get(url) {
  const res = await fetch(url, { headers: { Accept: 'application/json' } });
  if (!res.ok) throw new Problem(res.status, await res.json().catch(() => ({})));
  return res.json();
}

// read takes the data that the page carries.
export const read = (id) => JSON.parse(document.getElementById(id).textContent);

export const pause = (ms) => new Promise((done) => setTimeout(done, ms));
