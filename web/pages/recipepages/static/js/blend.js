// The blend page. Every number and every sentence comes from the server; this
// moves edges, sends changes in order, keeps the steps for undo, and puts the
// answers in their places.
import Alpine from '../vendor/alpine.js';
import './said.js';
import { get, read } from './net.js';
import { editing, adder, plain } from './edit.js';
import { picking } from './pick.js';
import { tools } from './tools.js';
import { seconding } from './second.js';

Alpine.data('blend', () => ({
  ...editing,
  ...adder,
  ...picking,
  ...tools,
  ...seconding,
  view: read('blend-data'),
  parts: false,
  grounds: ['light', 'mid', 'dark'],
  grabbed: null,
  looks: null, // what carding makes of it, once that is asked for
  looksSaid: '',
  even: '',
  looksOpen: false,
  trying: false,
  settled: [], // what was typed in this visit, the oldest first

  secondKind: 'blend',

  mendHere(f) {
    return this.change({ change: { verb: 'mend', key: f.rule, at: f.component, value: 0, settled: [] }, said: `mended: ${f.key}` });
  },
  init() {
    this.parts = this.view.is_new;
    this.lookOver();
    if (this.view.streaks) this.foretell();
  },
  at() { return `/blends/${this.view.id}/change`; },
  take(view, body) {
    const before = JSON.stringify(this.view.input);
    this.settle(view, body);
    this.view = view;
    clearTimeout(this.strandTimer);
    this.strandTimer = setTimeout(() => this.drawStrand(view.strand), 400);
    if (JSON.stringify(view.input) === before) return;
    this.lookSoon();
    if (this.tool) this.askAgain();
    clearTimeout(this.looksTimer);
    if (this.looksOpen || view.streaks) this.looksTimer = setTimeout(() => this.foretell(), 400);
  },
  openLooks(e) {
    this.looksOpen = e.target.open;
    if (this.looksOpen) this.foretell();
  },
  async foretell() {
    this.looksSaid = 'Working it out';
    await this.queue;
    const v = await get(`/blends/${this.view.id}/looks.json`).catch((p) => ({ said: p.message, stages: [] }));
    this.looks = v.stages;
    this.looksSaid = v.said || v.how;
    this.even = v.even || '';
  },
  lookList() { return this.looks || []; },
  plannedLook() { return this.lookList().filter((s) => s.pass === Number(this.view.input.passes)); },
  // planLook plans as many passes as it takes; the weigh-out follows.
  planLook(s) { return this.change({ typed: { passes: String(s.pass) } }, { name: 'passes' }); },
  // drawStrand waits until nothing changes: it is the largest picture here.
  drawStrand(link) {
    const strand = document.getElementById('strand');
    const next = new URL(link, window.location.href);
    next.searchParams.set('done', new URL(strand.src).searchParams.get('done'));
    strand.src = next.href;
  },
  act(verb, row, value = 0) {
    // The rows move up under an open menu; close it.
    for (const menu of document.querySelectorAll('.more[open]')) menu.open = false;
    const key = row ? row.key : '';
    return this.change({ change: { verb, key, at: 0, value, settled: [] } }, { name: key ? `row ${key}` : '' });
  },
  // body is what a typed field means. What was typed in this visit holds while
  // the others give way.
  body(field, key, text) {
    const verb = { percent: 'share', weight: 'grams', parts: 'parts' }[field];
    if (!verb) return { typed: { [field]: text } };
    const settled = this.settled.filter((k) => k !== key);
    return { change: { verb, key, at: 0, value: 0, settled }, typed: { [field]: text } };
  },
  // settle keeps track of what was typed in this visit and still stands.
  settle(view, body) {
    const was = Object.fromEntries(this.view.rows.map((r) => [r.key, r.share]));
    const { verb, key } = (body && body.change) || {};
    const stands = (k) => view.rows.some((r) => r.key === k && Math.abs(r.share - was[k]) < 1e-9);
    this.settled = this.settled.filter((k) => k !== key && stands(k));
    if (verb === 'share' || verb === 'grams') this.settled.push(key);
  },
  lock(row) { this.act(row.locked ? 'unlock' : 'lock', row); },

  // The share bar.
  edges() {
    let x = 0;
    const rows = this.view.rows;
    return rows.slice(0, -1).map((row, i) => {
      x += row.share;
      const next = rows[i + 1];
      return {
        style: { left: `${x * 100}%` },
        locked: row.locked || next.locked,
        key: row.key,
        label: `Edge between ${row.name} and ${next.name}`,
        now: Math.round(row.share * 1000) / 10,
        max: Math.round((row.share + next.share) * 1000) / 10,
        text: `${row.percent} % ${row.name}, ${next.percent} % ${next.name}`,
      };
    });
  },
  band(row) {
    return { width: `${row.share * 100}%`, backgroundImage: `url("${row.band}")` };
  },
  // An arrow moves what one can see, a hundredth of the whole; with Alt a step
  // of the scale, with Shift a tenth.
  edgeKey(e, edge) {
    const way = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[e.key];
    if (!way) return;
    e.preventDefault();
    const fine = e.altKey;
    const wide = e.shiftKey;
    this.change(() => {
      const i = this.view.rows.findIndex((r) => r.key === edge.key);
      if (i < 0 || i + 1 >= this.view.rows.length) return null;
      const both = this.view.rows[i].share + this.view.rows[i + 1].share;
      const step = this.view.step_share;
      const by = fine ? step : Math.max(step, wide ? 0.1 : 0.01);
      const least = Math.min(step, both / 2);
      const value = Math.min(Math.max(this.view.rows[i].share + way * by, least), both - least);
      return { change: { verb: 'slide', key: edge.key, at: 0, value } };
    });
  },
  grab(e, edge) {
    if (edge.locked) {
      this.problem = 'One side of this edge is locked.';
      return;
    }
    e.target.setPointerCapture(e.pointerId);
    const g = { key: edge.key, value: null, ready: false };
    this.grabbed = g;
    // What is still on its way belongs to the recipe that is dragged.
    this.queue = this.queue.then(() => {
      const { rows } = this.view;
      const i = rows.findIndex((r) => r.key === g.key);
      if (i < 0 || i + 1 >= rows.length) {
        this.grabbed = null;
        return;
      }
      g.left = rows.slice(0, i).reduce((sum, r) => sum + r.share, 0);
      g.both = rows[i].share + rows[i + 1].share;
      g.input = plain(this.view.input);
      g.ready = true;
      if (g.x !== undefined) this.dragTo(g, g.x);
    });
  },
  drag(e) {
    const g = this.grabbed;
    if (!g) return;
    g.x = e.clientX;
    if (g.ready) this.dragTo(g, g.x);
  },
  dragTo(g, x) {
    const box = this.$refs.bar.getBoundingClientRect();
    const step = this.view.step_share;
    const share = (x - box.left) / box.width - g.left;
    g.value = Math.min(Math.max(Math.round(share / step) * step, Math.min(step, g.both / 2)), g.both - Math.min(step, g.both / 2));
    this.tryDrag();
  },
  // tryDrag looks at the latest place of the edge, one request at a time.
  async tryDrag() {
    if (this.trying) return;
    this.trying = true;
    while (this.grabbed && this.grabbed.value !== this.grabbed.seen) {
      const g = this.grabbed;
      g.seen = g.value;
      await this.change(() => (this.grabbed === g ? { input: g.input, change: { verb: 'slide', key: g.key, at: 0, value: g.value } } : null), { keep: false });
    }
    this.trying = false;
  },
  drop() {
    const g = this.grabbed;
    if (!g) return;
    this.queue = this.queue.then(() => { if (this.grabbed === g) this.grabbed = null; });
    this.change(() => (g.value === null ? null : { input: g.input, change: { verb: 'slide', key: g.key, at: 0, value: g.value } }));
  },

  // Adding fibre.
  addLot(p) {
    this.change({ change: { verb: 'add', key: '', at: 0, value: 0, component: { lot_id: p.id, name: '', kind: '', preparation: '', hex: '', parts: 1, locked: false } } }, { name: 'add' });
  },
  addBought() {
    const r = this.$refs;
    const kind = r.buykind.value;
    const preparation = r.buyprep.value;
    const hex = r.buyhex.value;
    this.addFrom(['buyname'], ({ buyname }) => ({ change: { verb: 'add', key: '', at: 0, value: 0, component: {
      name: buyname.trim(), kind, preparation, hex, parts: 1, locked: false,
    } } }), 'add');
  },

  // Texts and shapes.
  comesOut() { return this.view.rows.length && !this.tool; },
  wantFill() { return { backgroundColor: this.view.target ? this.view.target.hex : '' }; },
  pickerValue() { return this.view.input.target || this.view.hex || '#808080'; },
  targetDelta() { return this.view.target ? this.view.target.delta_e : ''; },
  targetWords() {
    const w = this.view.target ? this.view.target.words : '';
    return w === 'the same to the eye' ? w : `${w} than you asked for`;
  },
  stageLabel() {
    return `The even mix, ${this.view.colour}, on light, mid and dark ground${this.view.target ? ', beside the colour wanted' : ''}`;
  },
  around() {
    return ['lighter', 'warmer', 'darker', 'cooler'].map((name, i) => ({ name, hex: this.view.around[i] }));
  },
  limit(k) { return this.view.limit ? this.view.limit[k] : ''; },
  limitShort() { return this.view.limit && !this.view.limit.enough; },
  costText() { return this.view.cost || 'not known; give the lots a cost'; },
  fieldLabel(row, what) {
    const unit = { percent: 'percent', parts: 'parts', weight: this.view.unit === 'g' ? 'grams' : 'ounces' }[what];
    return `${row.name} in ${unit}`;
  },
  lockLabel(row) { return `${row.name}: ${row.locked ? 'share is locked, unlock' : 'lock the share'}`; },
  moreLabel(row) { return `More for ${row.name}`; },
  lockPath(row) { return row.locked ? 'M5 9V6a4 4 0 0 1 8 0v3' : 'M5 9V6a4 4 0 0 1 7-2.6'; },
  lockFill(row) { return row.locked ? 'currentColor' : 'none'; },
  named(row, what) { return `${what} ${row.key}`; },
  heldText(row) { return this.settled.includes(row.key) && !row.locked ? 'as typed, it holds' : ''; },
  partsLabel() { return this.parts ? 'Hide parts' : 'Show parts'; },
  showParts() { this.parts = !this.parts; },
}));
Alpine.start();
