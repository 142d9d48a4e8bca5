// The yarn that a batt becomes: the whole of it as one bar, the strand and the cloth at the
// place that is looked at, and other ways to spin it. Numbers and pictures come from the program.
import Alpine from '../vendor/alpine.js';
import './said.js';
import { get, pause, read } from './net.js';
import { editing, plain } from './edit.js';
import './second.js';

if (document.getElementById('yarn-data')) {
  Alpine.data('yarn', () => ({
    ...editing,
    view: read('yarn-data'),
    mark: 20,
    ways: [],
    waysSaid: 'Spinning it in other ways.',
    beside: null,
    besideWrong: '',
    other: '',
    turns: 0,

    init() {
      this.layup = this.$el.dataset.layup;
      this.askWays();
    },
    at() { return `/yarns/${this.view.id}/change`; },
    body(field, key, text) { return { change: { verb: 'set', field }, typed: { [field]: text } }; },
    set(field, text) { return this.change({ change: { verb: 'set', field, text } }); },
    stage(value) { return this.change({ change: { verb: 'set', field: 'stage', value } }); },
    usual(f) { return this.change({ change: { verb: 'usual', field: f.name } }, { name: f.name }); },
    usualLabel(f) { return `Take the usual: ${f.label}`; },
    spinSo(w) { return this.change({ change: { verb: 'all', plan: plain(w.plan) } }); },
    takeLabel(w) { return `Spin it so: ${w.title}`; },
    take(view) {
      this.view = view;
      if (this.other) this.setBeside(this.other);
    },
    is(field, value) { return this.view.input[field] === value; },
    isStage(n, first) { return n === (this.view.input.stage || first); },
    isWay(w) {
      const now = this.view.input;
      const same = ['way', 'order', 'from', 'ply', 'pair'].every((k) => now[k] === w.plan[k]);
      return same && (now.way === 'whole' || now.way === 'halves' || now.parts === w.plan.parts);
    },
    divided() { return ['strips', 'halves', 'rolags'].includes(this.view.input.way); },
    twoPly() { return this.view.input.ply === 'two'; },
    felted() { return this.view.input.cloth === 'felt'; },
    fieldFault(f) { return this.fault(f.name); },

    patternSaid() { return this.view.pattern.charAt(0).toLowerCase() + this.view.pattern.slice(1); },
    picture(what, more) { return `${this.view.picture}&${new URLSearchParams({ what, ...more })}`; },
    bar() { return this.picture('bar', { w: 1224 }); },
    barAlt() { return `The whole yarn from end to end: ${this.view.runs.map((r) => `${r.name} ${r.long}`).join(', ')}`; },
    here() { return this.view.marks[this.mark] || this.view.marks[0]; },
    look(n) { this.mark = Number(n); },
    markStyle() { return { left: `${(100 * this.mark) / 60}%` }; },
    labelled() { return this.view.runs.filter((r) => r.width > 7); },
    runStyle(r) { return { left: `${r.left}%`, width: `${r.width}%` }; },
    strand() { return this.picture('strand', { w: 960, from: this.here().from }); },
    strandAlt() { return `The yarn ${this.here().alt}`; },
    ruleStyle() { return { width: `${this.view.scale.pct}%` }; },
    twistSaid() {
      const [single, ply] = this.view.input.s ? ['S', 'Z'] : ['Z', 'S'];
      if (this.view.input.ply === 'single') return `spun ${single}; the yarn lies, and so does the letter`;
      return `singles ${single}, plied ${ply}; the yarn lies, and so do the letters`;
    },
    cloth() { return this.felted() ? this.view.felt : this.picture('cloth', { w: 470, from: this.here().cloth }); },
    clothAlt() { return this.felted() ? 'The batt as a sheet to be felted' : `A piece of it: ${this.here().piece}`; },
    clothSaid() {
      return this.felted() ? 'The batt as a sheet, before it is felted; felt shrinks, and its colours move closer.' : this.here().piece;
    },
    dab(r) { return { backgroundColor: r.hex }; },

    async askWays() {
      const ways = await get(`/layups/${this.layup}/yarn/ways?plan=${this.view.code}`).catch(() => null);
      if (ways) this.ways = ways;
      else this.waysSaid = 'The other ways could not be worked out.';
    },
    async setBeside(id) {
      this.turns += 1;
      const turn = this.turns;
      this.other = id;
      this.besideWrong = '';
      if (!id) {
        this.beside = null;
        return;
      }
      await pause(0);
      const v = await get(`/layups/${this.layup}/yarn/beside?other=${id}&plan=${this.view.code}`).catch((p) => p);
      if (turn !== this.turns) return;
      if (v && v.way) this.beside = v;
      else this.besideWrong = (v && v.message) || 'It could not be worked out.';
    },
  }));
}
Alpine.start();
