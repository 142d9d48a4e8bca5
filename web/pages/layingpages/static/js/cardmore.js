// What stands below a batt foretold: what its parts hold, another one beside it, and the
// carder as a test batt has shown it.
import { get, send } from './net.js';

// lines reads an answer of lines of JSON as they come, and gives each to hear.
export async function lines(res, signal, hear) {
  const reader = res.body.pipeThrough(new TextDecoderStream()).getReader();
  let text = '';
  for (;;) {
    const { value, done } = await reader.read();
    if (done || signal.aborted) break;
    text += value;
    const list = text.split('\n');
    text = list.pop();
    for (const line of list.filter(Boolean)) hear(JSON.parse(line));
  }
}

export const parting = {
  parts: null,
  partsOf: 0, // 0: as the lay-up has it
  byWeight: false,
  partsWrong: '',
  isParts(n) { return this.parts && this.parts.parts.length === n; },
  into(n) {
    this.partsOf = n;
    this.askParts();
  },
  weighed(on) {
    this.byWeight = on;
    this.askParts();
  },
  async askParts() {
    const turn = (this.partTurn || 0) + 1;
    this.partTurn = turn;
    const q = new URLSearchParams({ stage: this.chosen, parts: this.partsOf, strips: this.view.strips, refeed: this.view.refeed });
    if (this.byWeight) q.set('weight', '1');
    try {
      const v = await get(`/layups/${this.id}/parts?${q}`);
      if (turn !== this.partTurn) return;
      this.parts = v;
      this.partsWrong = '';
    } catch (p) {
      if (turn === this.partTurn) this.partsWrong = p.message;
    }
  },
  partList() { return this.parts ? this.parts.parts : []; },
  partsSaid() { return this.parts ? this.parts.said : ''; },
  swatchOf(p) { return { backgroundColor: p.hex }; },
};

export const besides = {
  beside: null,
  besideOf: '',
  besideWrong: '',
  setBeside(value) {
    this.besideOf = value;
    this.lookBeside();
  },
  async lookBeside() {
    const turn = (this.besideTurn || 0) + 1;
    this.besideTurn = turn;
    if (!this.besideOf) {
      this.beside = null;
      return;
    }
    const [other, way, what] = this.besideOf.split(' ');
    const q = new URLSearchParams({ strips: this.view.strips, refeed: this.view.refeed, other, way, what: what || '' });
    try {
      const v = await get(`/layups/${this.id}/beside?${q}`);
      if (turn !== this.besideTurn) return;
      this.beside = v;
      this.besideWrong = '';
    } catch (p) {
      if (turn !== this.besideTurn) return;
      this.beside = null;
      this.besideWrong = p.message;
    }
  },
  besideStages() { return this.beside ? this.beside.stages : []; },
  besideStage() { return this.besideStages()[Math.min(this.chosen, this.besideStages().length) - 1]; },
  againstSaid() { return this.beside ? this.beside.against[Math.min(this.chosen, this.beside.against.length) - 1] : ''; },
  isBeside(s) { return this.besideStage() === s; },
};

export const fitting = {
  noted: [],
  fitSaid: '',
  fitPart: 0,
  fitStop: null,
  needsBefore: null, // the passes that were needed before the fit
  followsFit() { return !!this.view.fit && this.view.fit.used; },
  // What was seen in a run comes with the address; else what was noted of this lay-up.
  startNoted() {
    const seen = new URLSearchParams(window.location.search).get('looks')?.split(',');
    if (seen) {
      this.noted = this.view.stages.map((_, i) => seen[i] || '');
      return;
    }
    this.noted = this.view.stages.map((_, i) => (this.view.fit && this.view.fit.looks ? this.view.fit.looks[i] || '' : ''));
  },
  notedAs(s, look) { return this.noted[s.pass - 1] === look; },
  note(s, look) { this.noted[s.pass - 1] = look; },
  anyNoted() { return this.noted.some(Boolean); },
  fitButton() { return this.view.fit && this.view.fit.used ? 'Leave the test batt out' : 'Follow the test batt'; },
  async fit() {
    if (this.fitStop) return;
    const stop = new AbortController();
    this.fitStop = stop;
    this.fitSaid = 'Comparing with carders as they differ';
    this.fitPart = 0;
    const { needs } = this;
    try {
      const res = await fetch(`/layups/${this.id}/fit?strips=${this.view.strips}&refeed=${this.view.refeed}`, {
        method: 'POST',
        signal: stop.signal,
        headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
        body: JSON.stringify({ looks: this.noted }),
      });
      await lines(res, stop.signal, (v) => {
        if (v.problem || v.detail) this.fitSaid = v.detail || v.problem.errors?.[0]?.message || v.problem.detail;
        else if (v.done) this.fitSaid = '';
        else if (v.said) this.fitSaid = v.said;
        else this.fitPart = v.part;
      });
      if (!this.fitSaid) await this.followed(needs);
    } catch {
      this.fitSaid = stop.signal.aborted ? 'Stopped; nothing was kept.' : 'No connection to the program; nothing was kept.';
    }
    this.fitStop = null;
    this.fitPart = 0;
  },
  stopFit() { this.fitStop.abort(); },
  async useFit() {
    const { needs } = this;
    try {
      await send(`/layups/${this.id}/fit/use`, { used: !this.view.fit.used });
      await this.followed(needs);
    } catch (p) {
      this.fitSaid = p.message;
    }
  },
  // followed looks at it again once the carder is another, beside what was said before.
  async followed(needs) {
    this.needsBefore = needs;
    this.view = await get(this.json('&coarse=1'));
    this.fitSaid = '';
    this.sharpen();
    this.ask();
    this.askParts();
    this.lookBeside();
  },
  beforeText(n) {
    const was = (this.needsBefore || []).find((v) => v.look === n.look);
    if (!was) return '';
    return was.never ? `, not within reach before` : `, ${this.passText(was)} before`;
  },
};
