// The tools of the blend page: find proportions, mend, dull. Their answers are
// recipes; taking one is a change of the blend like any other, with undo.
import { inTurn, send } from './net.js';
import { focusShown } from './focus.js';
import { plain } from './edit.js';

// faultsOf puts the faults of an answer at the tool's fields.
function faultsOf(p) {
  const out = { all: p.message };
  for (const e of p.body.errors || []) {
    out[e.field] = out[e.field] || e.message;
  }
  if (['wool', 'made.grams', 'max_added_g', 'said', 'measured.hex', 'target', 'drop', 'reader'].some((k) => out[k])) out.all = '';
  return out;
}

// takenBy is what a step is called that a tool's answer replaced.
const takenBy = { find: 'before proportions were found', mend: 'as it was carded, before the mend', dull: 'before it was dulled' };

export const tools = {
  tool: '',
  toolFaults: {},
  most: 3,
  wool: '',
  noSparkle: true,
  unclaimed: true,
  anyForm: false,
  wishKind: '',
  found: null,
  progress: null,
  searching: false,
  readerSaid: '',
  toolFault(field) { return this.toolFaults[field] || ''; },
  made: '',
  there: 'planned',
  added: '',
  mendMost: 2,
  how: 'said',
  measured: '#808080',
  said: {},
  mended: null,
  takeOff: 30,
  dulled: null,
  turn: 0,
  old: false, // the answers shown are to an earlier question

  openTool(name) {
    this.tool = name;
    this.toolFaults = {};
    this.found = null;
    this.mended = null;
    this.dulled = null;
    if (name === 'mend') {
      this.made = this.made || this.view.total;
      if (this.view.weighed ) {
        this.there = 'weighed';
        this.made = this.view.weighed;
      }
      this.added = this.added || this.view.total_quarter;
      this.measured = this.view.hex;
    }
    focusShown(() => this.$refs['tool' + name]);
    if (name === 'find' && this.view.input.target) this.findNow();
    if (name === 'dull') this.dullNow();
  },
  closeTool() {
    this.stopFinding();
    const name = this.tool;
    this.tool = '';
    focusShown(() => document.getElementById('open' + name));
  },
  // askAgain asks anew when the blend changed under an open tool; until the
  // answer is there nothing of the old one can be taken.
  askAgain() {
    if (this.tool === 'find' && this.view.input.target) this.findNow();
    else if (this.tool === 'mend') this.mendNow();
    else if (this.tool === 'dull') this.dullNow();
  },
  async ask(path, body) {
    this.turn += 1;
    const { turn } = this;
    this.searching = true;
    this.old = true;
    try {
      await this.queue;
      if (turn !== this.turn) return null;
      const answer = await inTurn(`/blends/${this.view.id}/${path}`, { input: plain(this.view.input), ...body }, (said) => {
        if (turn === this.turn) this.toolFaults = { all: said };
        return turn === this.turn;
      });
      if (turn !== this.turn) return null;
      this.toolFaults = {};
      this.old = false;
      return answer;
    } catch (p) {
      if (turn === this.turn) this.toolFaults = faultsOf(p);
      return null;
    } finally {
      if (turn === this.turn) this.searching = false;
    }
  },

  // Find.
  question(more) {
    return { target: '', most: Number(this.most), wool: this.wool, no_sparkle: this.noSparkle, unclaimed: this.unclaimed, any_form: this.anyForm, kind: this.wishKind, quick: false, ...more };
  },
  async findNow() {
    this.stopFinding();
    const a = await this.ask('find', this.question());
    if (a) this.found = a;
    else if (this.toolFaults.all || Object.keys(this.toolFaults).length > 1) this.found = null;
  },
  // While a colour is being picked a quick search follows it.
  async follow(event) {
    const target = event.target.value;
    if (this.following) {
      this.followNext = target;
      return;
    }
    this.following = true;
    const a = await this.ask('find', this.question({ target, quick: true }));
    if (a) this.found = a;
    this.following = false;
    if (this.followNext) {
      const next = this.followNext;
      this.followNext = '';
      this.follow({ target: { value: next } });
    }
  },
  // aim makes a colour the one wanted; the blend that then stands is asked for.
  aim(hex, name = 'target') {
    if (!hex) return true;
    this.old = true;
    this.stopFinding();
    return this.change({ typed: { target: hex } }, { name });
  },
  aimTyped(event) { event.detail.sent(this.aim(event.detail.text.trim(), event.target.name)); event.stopPropagation(); },
  aimChosen(event) { this.aim(event.target.value); },
  async readColour() {
    this.readerSaid = 'Reading';
    try {
      const r = await send('/reader', { under: this.view.input.target || this.view.hex });
      this.readerSaid = r.said;
      this.aim(r.hex);
    } catch (p) {
      this.readerSaid = p.message;
    }
  },
  async findEvery() {
    this.stop = new AbortController();
    const { stop } = this;
    this.progress = { part: 0, said: 'Looking at every set' };
    try {
      const res = await fetch(`/blends/${this.view.id}/find/all`, {
        method: 'POST',
        signal: stop.signal,
        headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
        body: JSON.stringify({ input: plain(this.view.input), ...this.question() }),
      });
      const reader = res.body.pipeThrough(new TextDecoderStream()).getReader();
      let text = '';
      for (;;) {
        const { value, done } = await reader.read();
        if (done) break;
        text += value;
        const lines = text.split('\n');
        text = lines.pop();
        for (const line of lines.filter(Boolean)) {
          const v = JSON.parse(line);
          if (stop.signal.aborted) break;
          if (v.answer) this.found = v.answer;
          else if (v.problem) this.toolFaults = { all: v.problem.detail };
          else this.progress = v;
        }
      }
    } catch {
      if (!stop.signal.aborted) this.toolFaults = { all: 'The search was cut off. Try again.' };
    }
    if (this.stop === stop) this.progress = null;
  },
  stopFinding() {
    if (this.stop) this.stop.abort();
    this.progress = null;
  },
  canLookFurther() { return this.found && !this.found.complete && this.found.found.length && !this.progress; },
  foundList() { return this.found ? this.found.found : []; },
  foundNone() { return this.found && this.found.found.length === 0; },
  progressPart() { return this.progress ? this.progress.part : 0; },
  progressSaid() { return this.progress ? this.progress.said : ''; },

  // Mend.
  say(what, how) {
    const said = { ...this.said };
    if (said[what] === how) delete said[what];
    else said[what] = how;
    const other = { light: 'dark', dark: 'light', warm: 'cool', cool: 'warm', bright: 'dull', dull: 'bright', red: 'green', green: 'red' }[what];
    delete said[other];
    this.said = said;
    this.mendNow();
  },
  isSaid(what, how) { return this.said[what] === how; },
  async mendNow() {
    const words = Object.entries(this.said).map(([what, how]) => ({ what, how }));
    if (this.how === 'said' && !words.length) {
      this.mended = null;
      return;
    }
    const a = await this.ask('mend', { made: this.made, added: this.added, there: this.there, most: Number(this.mendMost), how: this.how, measured: this.measured, said: words });
    this.mended = a;
  },
  setThere() {
    this.made = this.there === 'weighed' ? this.view.weighed : this.view.total;
    this.mendNow();
  },
  thereText() { return this.view.weighed ? `weighed: ${this.view.weighed} ${this.view.unit}` : ''; },
  mendList() { return this.mended ? this.mended.mends : []; },
  takeOuts() { return this.mended ? this.mended.take_out : []; },
  hasTakeOuts() { return this.takeOuts().length > 0; },
  mendNone() { return this.mended && this.mended.mends.length === 0; },

  // Dull.
  async dullNow() {
    const a = await this.ask('dull', { drop: Number(this.takeOff) });
    if (a) this.dulled = a;
  },
  wayName(w) { return w.row ? w.row.name : ''; },
  wayDelta(w) { return w.then ? w.then.delta_e : ''; },
  wayWords(w) { return w.then ? `${w.then.words} than now` : ''; },
  wayWhy(w) { return w.none || w.why; },
  dullWays() { return this.dulled ? this.dulled.ways : []; },

  cannotTake() { return this.old || this.searching; },
  async takeRecipe(r) {
    if (this.cannotTake()) return;
    const said = this.tool;
    const more = r.came ? { came: r.came } : {};
    const ok = await this.change(() => ({ input: { ...plain(this.view.input), components: r.components, total_g: r.total_g, ...more }, said: takenBy[said] }));
    if (ok) this.closeTool();
  },
  pair(a, b) { return { background: `linear-gradient(90deg, ${a} 50%, ${b} 50%)` }; },
  foundPair(r) { return this.pair(this.found.target, r.hex); },
  mendPair(r) { return this.pair(this.mended.target_hex, r.hex); },
  dullPair(w) { return w.then ? this.pair(this.view.hex, w.then.hex) : {}; },
  bandOf(row) { return { width: `${row.share * 100}%`, backgroundImage: `url("${row.band}")` }; },
  beforePair() { return this.mended ? this.pair(this.mended.target_hex, this.mended.before_hex) : {}; },
  mendBefore() { return this.mended ? `${this.mended.before} · ${this.mended.words}` : ''; },
  targetShown() { return this.view.input.target || 'none yet'; },
  dullSaid() { return this.dulled ? this.dulled.said : ''; },
  foundSaid() { return this.found ? this.found.said : ''; },
};
