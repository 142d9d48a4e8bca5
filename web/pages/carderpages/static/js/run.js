// The carder's bench: one step in large type, what came off, and what is told of the pass.
// Each thing told is an entry that is sent until it is on disk. Keys: the right arrow or
// Enter goes on, the left one back, the space bar takes what the scale says.
import Alpine from '../vendor/alpine.js';
import { afterPaint } from './after.js';
import { folding } from './folds.js';
import { read, send, newKey, untilAnswered } from './net.js';
import { editing } from './edit.js';
import { commitAll } from './field.js';
import { plating } from './plate.js';
import { face, section } from './bed.js';
import './second.js';

const data = read('run-data');
const blank = 'data:image/gif;base64,R0lGODlhAQABAAAAACH5BAEKAAEALAAAAAABAAEAAAICTAEAOw==';
const weights = ['off', 'in', 'residue', 'droppings', 'picked', 'cloth']; // that the scale can say
const longest = 45 * 60; // seconds without an entry that the clock still counts

const clockText = (seconds) => `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;

Alpine.data('run', () => ({
  ...plating,
  ...editing,
  ...folding,
  view: data.view,
  hears: data.hears,
  blank,
  now: 0, // the unit
  at: 0, // its step
  places: [], // unit.pass that were looked at; what is typed there stays
  backs: {},
  ticked: 0,
  taken: performance.now(),

  init() {
    this.now = Math.min(this.view.at, this.view.units.length - 1);
    this.at = this.stepOf(this.now);
    this.visit();
    if (this.hears) this.listen();
    setInterval(() => { this.ticked += 1; }, 1000);
    this.$nextTick(() => this.paint());
    window.addEventListener('resize', () => this.paint());
  },
  base() { return '/stock'; },
  renewKey() {}, // what the plates of a weigh-out bring concerns nothing here
  stepOf(u) { return Math.max(0, Math.min(this.view.units[u].step, this.stepsOf(u).length - 1)); },
  stepsOf(u) { return this.view.steps[this.view.units[u].passes.length]; },
  steps() { return this.stepsOf(this.now); },
  step() { return this.steps()[Math.min(this.at, this.steps().length - 1)]; },
  unit() { return this.view.units[this.now]; },
  // A place is a unit and a pass; its fields are named by it.
  here() { return `${this.now}.${this.step().pass}`; },
  visit() {
    if (!this.places.includes(this.here())) this.places = [...this.places, this.here()];
  },
  split(k) { return k.split('.').map(Number); },
  of(k) { return this.view.units[this.split(k)[0]]; },
  pass(k) {
    const [u, p] = this.split(k);
    const { passes } = this.view.units[u];
    return passes[Math.min(p, passes.length) - 1];
  },
  named(field, k) { return `${field} ${k}`; },
  place() { return `step ${this.at + 1} of ${this.steps().length}`; },
  passWords() { return `${this.view.pass_word} ${this.step().pass} of ${this.unit().passes.length}`; },
  passTitle() { return `${this.unit().title}, ${this.view.pass_word} ${this.step().pass}`; },
  weighs() {
    const { action, pass } = this.step();
    if (['lift', 'roll', 'card', 'tear'].includes(action)) return true;
    return action === 'finish' && !this.view.drum && !this.view.rolls && pass === this.unit().passes.length;
  },
  rolled() { return this.step().pass === this.unit().passes.length; }, // at the last pass it is rolled off
  oneMore(k) {
    return this.change(() => this.entry('count', k, { text: String(Number(this.of(k).count || 0) + 1) }), { name: `count ${k}` });
  },
  expected() { return this.step().amount ? `expected ${this.step().amount}` : ''; },

  allCautions() { return [...new Set(this.steps().flatMap((s) => s.cautions))]; },

  // The way through the steps.
  isFirst() { return this.at === 0; },
  isEnd() { return this.at === this.steps().length - 1 && this.next() < 0; },
  next() { return this.view.units.findIndex((u) => !u.done && u.key !== this.now); },
  onWords() {
    if (this.unchecked().length) return 'In order: go on';
    return this.at === this.steps().length - 1 && this.next() >= 0 ? `Go on with ${this.view.units[this.next()].title}` : 'Next';
  },
  unchecked() { return (this.step().checks || []).filter((c) => c && (c === 'unplugged' || !this.view.ticks[c])); },
  onward() {
    for (const text of this.unchecked()) this.tell('tick', this.here(), text);
    if (this.at < this.steps().length - 1) this.go(this.at + 1);
    else if (this.next() >= 0) this.turn(this.next());
  },
  go(to) {
    if (to < 0 || to >= this.steps().length) return;
    commitAll();
    this.at = to;
    this.tell('step', this.here(), String(to));
    this.moved();
  },
  turn(u) {
    commitAll();
    this.now = u;
    this.at = this.stepOf(u);
    if (this.view.units[u].step < 0) this.tell('step', this.here(), String(this.at));
    this.moved();
  },
  moved() {
    this.visit();
    const { now, at } = this;
    afterPaint(() => { if (this.now === now && this.at === at) this.paint(); });
  },
  key(e) {
    const inField = /^(INPUT|SELECT|TEXTAREA)$/.test(e.target.tagName);
    if (e.defaultPrevented || e.ctrlKey || e.metaKey || e.altKey) return;
    const what = inField ? e.target.name.split(' ')[0] : 'off';
    const empty = !inField || (e.target.value === '' && weights.includes(what));
    if ((e.key === ' ' || e.key === 'PageDown') && !/^(BUTTON|A|SELECT)$/.test(e.target.tagName) && empty && this.hears && (inField || this.weighs())) {
      e.preventDefault();
      this.takeFromScale(this.here(), what);
      return;
    }
    if (inField || (e.key === 'Enter' && /^(A|BUTTON)$/.test(e.target.tagName))) return;
    if (e.key === '+' && this.view.rolls && this.weighs() && this.rolled()) {
      e.preventDefault();
      this.oneMore(this.here());
      return;
    }
    const way = { ArrowRight: 1, Enter: 1, PageDown: 1, ArrowLeft: -1, PageUp: -1 }[e.key];
    if (!way) return;
    e.preventDefault();
    if (way > 0) this.onward();
    else this.go(this.at - 1);
  },

  // What is told.
  url() { return `/runs/${this.view.id}/tell`; },
  post(body) { return send(this.url(), body); },
  take(view) {
    this.view = { ...view, steps: { ...view.steps, ...(view.pictured ? {} : this.view.steps) }, looks: this.view.looks };
    this.taken = performance.now();
  },
  entry(what, k, rest) {
    const [unit, pass] = this.split(k);
    return { key: newKey(), unit, pass, what, text: '', back: '', mg: 0, ...rest };
  },
  tell(what, k, text, name = '') { return this.change(() => this.entry(what, k, { text }), { name }); },
  body(field, k, text) { return this.entry(field, k, { text, back: field === 'residue' ? this.backOf(k) : '', after: this.pass(k).after[field] || 0 }); },
  stale(current, body, name) {
    this.take(current);
    this.blame({ body: {}, message: 'Another window told this in the meantime. What you typed is still here; type on, and Enter puts it in its place.' }, name);
    return false;
  },
  backOf(k) { return this.backs[k] || this.pass(k).back || 'returned'; },
  setBack(k, e) {
    this.backs = { ...this.backs, [k]: e.target.value };
    if (this.pass(k).residue !== '') this.change(() => this.body('residue', k, this.pass(k).residue), { name: `residue ${k}` });
  },
  look(k, text) { this.tell('look', k, text, `look ${k}`); },
  async addPiece(k) {
    const el = this.$root.querySelector(`[id="piece ${k}"]`);
    const text = el.value;
    el.value = '';
    const name = `piece ${k}`;
    if (!await this.tell('piece', k, text, name) && el.value === '') el.value = text;
  },
  cleaned(e) { this.change(() => this.entry('cleaned', this.here(), { text: e.target.checked ? '1' : '0' })); },
  anotherTitle(k) {
    const [, p] = this.split(k);
    return p < this.of(k).passes.length ? `Then ${this.view.pass_word} ${p + 1}?` : `Another ${this.view.pass_word}?`;
  },
  moreWords(k) { return `Another ${this.view.pass_word}`; },
  async another(k, more) {
    const [u, p] = this.split(k);
    if (more === this.of(k).passes.length > p || await this.tell(more ? 'more' : 'enough', k, '')) {
      if (this.now === u && this.step().pass === p) this.go(Math.min(this.at + 1, this.steps().length - 1));
    }
  },
  // What was refused of a place that is out of sight.
  elsewhere() {
    const name = Object.keys(this.faults).find((n) => n.includes(' ') && n.split(' ')[1] !== this.here());
    if (!name) return '';
    const [u, p] = this.split(name.split(' ')[1]);
    return `${this.view.units[u].title}, ${this.view.pass_word} ${p}: ${this.faults[name]}`;
  },
  goThere() {
    const name = Object.keys(this.faults).find((n) => n.includes(' ') && n.split(' ')[1] !== this.here());
    const [field, k] = name.split(' ');
    const [u, p] = this.split(k);
    this.now = u;
    const steps = this.stepsOf(u);
    this.at = Math.max(0, steps.findIndex((s) => s.pass === p && (field !== 'off' || ['lift', 'roll', 'card', 'tear', 'finish'].includes(s.action))));
    this.moved();
    this.$nextTick(() => document.getElementById(name)?.focus());
  },

  // The scale: what it says goes to what came off.
  scaleWords() {
    if (!this.heard()) return 'Nothing is heard from the scale';
    return `Take ${this.live.net} ${this.view.unit}`;
  },
  canTake() { return false; }, // nothing is taken here unasked
  takeFromScale(k, what = 'off') {
    if (!this.heard() || this.live.net_mg <= 0) this.status = 'The scale says nothing that could be booked.';
    else if (!this.live.stable) this.status = 'It is still moving.';
    else {
      const { net, net_mg: mg } = this.live;
      this.change(() => ({ ...this.body(what, k, net), mg }), { name: `${what} ${k}` });
    }
  },

  // The clock.
  beside() { return ['ready', 'alone', 'finish'].includes(this.step().action); }, // the clock does not run there
  running() { return !this.view.paused && this.view.at === this.now && this.stepOf(this.now) === this.at && !this.beside() && !this.stood(); },
  stood() { return this.view.since + (performance.now() - this.taken) / 1000 > longest; },
  corrected() { return this.pass(this.here()).corrected; },
  clockRuns() { return this.ticked >= 0 && this.running() && !this.corrected(); },
  stopped() { return this.ticked >= 0 && !this.running() && !this.beside() && !this.corrected(); },
  clock() {
    const more = this.clockRuns() ? this.view.since + (performance.now() - this.taken) / 1000 : 0;
    const all = this.pass(this.here()).seconds + more;
    return all > 0 ? clockText(all) : '';
  },
  pause() { this.tell('pause', this.here(), ''); },
  goOn() { this.tell('step', this.here(), String(this.at)); },

  // Photos are sent as they are and kept without what the camera wrote into them.
  async addPhoto(k, e) {
    const [file] = e.target.files;
    if (!file) return;
    const name = `photo ${k}`;
    this.forget(name);
    this.status = 'The photo is being taken in';
    const body = new FormData();
    body.append('entry', JSON.stringify(this.entry('photo', k, {})));
    body.append('file', file);
    try {
      this.show(await untilAnswered(() => send(`/runs/${this.view.id}/photo`, body), (said) => { this.status = said; }, [0, 503]));
      this.status = 'Saved';
      e.target.value = '';
    } catch (p) {
      if (p.status === undefined) throw p;
      this.status = 'Not saved';
      this.blame(p, name);
    }
  },
  photoHref(id) { return `${this.view.photos[id]?.href || '/photos'}?run=${this.view.id}&place=${this.here()}`; },
  photoSrc(id) { return this.view.photos[id]?.url || blank; },
  photoName(id) { return this.view.photos[id]?.name || ''; },

  // The cloth as it lies by this step, where the lay-up still lies so.
  paint() {
    if (!data.bed || !this.$refs.face || this.step().picture) return;
    const { pass, half } = this.step();
    const top = this.steps().slice(0, this.at + 1).reduce((n, s) => (s.pass === pass ? Math.max(n, s.layer) : n), -1);
    const joining = data.bed.input.layers.findIndex((l) => l.lays.some((v) => data.bed.fibres[v.component].joins === pass));
    const there = (fibre, layer) => {
      if (fibre.joins === pass) return layer <= top;
      return fibre.joins < pass && (half === 2 || (half === 1 && (joining < 0 || layer < joining)));
    };
    const css = getComputedStyle(document.documentElement);
    const { bed } = data.bed;
    const canvas = this.$refs.face;
    face(canvas, data.bed, bed.type === 'drum' ? 130 : Math.min(220, (canvas.clientWidth * bed.length) / bed.width), there);
    section(this.$refs.section, data.bed, 100, { there, ink: css.getPropertyValue('--ink'), wrong: css.getPropertyValue('--wrong') });
  },
}));
Alpine.start();
