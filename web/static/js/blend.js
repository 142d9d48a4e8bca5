// The blend page. Every number and every sentence comes from the server; this
// moves edges, sends changes in order, keeps the steps for undo, and puts the
// answers in their places.
import Alpine from '../vendor/alpine.js';
import { read } from './net.js';
import { editing, plain } from './edit.js';
import { picking } from './pick.js';
import { tools } from './tools.js';

Alpine.data('blend', () => ({
  ...editing,
  ...picking,
  ...tools,
  view: read('blend-data'),
  parts: false,
  grounds: ['light', 'mid', 'dark'],
  grabbed: null,
  trying: false,

  at() { return `/blends/${this.view.id}/change`; },
  take(view) {
    this.view = view;
    this.faults = {};
    this.problem = '';
    clearTimeout(this.strandTimer);
    this.strandTimer = setTimeout(() => this.drawStrand(view.strand), 400);
  },
  // drawStrand waits until nothing changes: it is the largest picture here.
  drawStrand(link) {
    const strand = document.getElementById('strand');
    const next = new URL(link, window.location.href);
    next.searchParams.set('done', new URL(strand.src).searchParams.get('done'));
    strand.src = next.href;
  },
  blame(p, body) {
    this.faults = {};
    const list = p.body.errors || [];
    for (const e of list) {
      const at = /^components\[(\d+)\]/.exec(e.field);
      const field = { total_g: 'total', at: '', value: '' }[e.field] ?? e.field;
      if (at && Number(at[1]) >= this.view.rows.length) this.faults.add = e.message;
      else if (at) this.faults['row' + at[1]] = e.message;
      else if (['total', 'passes', 'target', 'add'].includes(field)) this.faults[field] = e.message;
      else if (['percent', 'parts', 'weight'].includes(field) && body.change) this.faults['row' + body.change.at] = e.message;
      else this.problem = e.message;
    }
    if (list.length === 0) this.problem = p.message;
  },
  act(verb, at, value = 0) {
    // The rows move up under an open menu; close it.
    for (const menu of document.querySelectorAll('.more[open]')) menu.open = false;
    return this.change({ change: { verb, at, value } }, true, true);
  },
  typed(event, field, at = 0) {
    const verb = { percent: 'share', weight: 'grams', parts: 'parts' }[field];
    const body = { field, text: event.target.value };
    if (verb) body.change = { verb, at };
    this.change(body, true, true);
  },
  lock(i) {
    this.act(this.view.rows[i].locked ? 'unlock' : 'lock', i);
  },

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
  edgeKey(e, i) {
    const way = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[e.key];
    if (!way) return;
    e.preventDefault();
    const step = this.view.step_share * (e.shiftKey ? 10 : 1);
    this.queue = this.queue.then(() => this.changeNow(
      { change: { verb: 'slide', at: i, value: this.view.rows[i].share + way * step } }, true, true,
    ));
  },
  grab(e, i) {
    if (this.edges()[i].locked) {
      this.problem = 'One side of this edge is locked.';
      return;
    }
    e.target.setPointerCapture(e.pointerId);
    const rows = this.view.rows;
    const left = rows.slice(0, i).reduce((sum, r) => sum + r.share, 0);
    this.grabbed = { i, left, both: rows[i].share + rows[i + 1].share, value: null };
    const g = this.grabbed;
    // What is still on its way belongs to the recipe that is dragged.
    this.queue = this.queue.then(() => { g.input = plain(this.view.input); });
  },
  drag(e) {
    const g = this.grabbed;
    if (!g) return;
    const box = this.$refs.bar.getBoundingClientRect();
    const step = this.view.step_share;
    const x = (e.clientX - box.left) / box.width - g.left;
    g.value = Math.min(Math.max(Math.round(x / step) * step, Math.min(step, g.both / 2)), g.both - Math.min(step, g.both / 2));
    this.tryDrag();
  },
  // tryDrag looks at the latest place of the edge, one request at a time.
  async tryDrag() {
    if (this.trying) return;
    this.trying = true;
    while (this.grabbed && this.grabbed.value !== this.grabbed.seen) {
      const g = this.grabbed;
      g.seen = g.value;
      await this.queue;
      await this.change({ input: g.input, change: { verb: 'slide', at: g.i, value: g.value } }, false, false);
    }
    this.trying = false;
  },
  drop() {
    const g = this.grabbed;
    this.grabbed = null;
    if (!g || g.value === null) return;
    this.queue = this.queue.then(async () => {
      this.past.push(g.input);
      this.future = [];
      await this.changeNow({ input: g.input, change: { verb: 'slide', at: g.i, value: g.value } }, true, false);
    });
  },

  // Adding fibre.
  addLot(p) {
    this.change({ change: { verb: 'add', at: 0, value: 0, component: { lot_id: p.id, name: '', kind: '', preparation: '', hex: '', parts: 1, locked: false } } }, true, true);
  },
  addBought() {
    const r = this.$refs;
    const name = r.buyname.value.trim();
    if (!name) {
      this.faults = { add: 'Give it a name.' };
      return;
    }
    this.change({ change: { verb: 'add', at: 0, value: 0, component: {
      name, kind: r.buykind.value, preparation: r.buyprep.value, hex: r.buyhex.value, parts: 1, locked: false,
    } } }, true, true);
    r.buyname.value = '';
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
  faultAt(i) { return this.faults['row' + i] || ''; },
  fieldLabel(row, what) {
    const unit = { percent: 'percent', parts: 'parts', weight: this.view.unit === 'g' ? 'grams' : 'ounces' }[what];
    return `${row.name} in ${unit}`;
  },
  lockLabel(row) { return `${row.name}: ${row.locked ? 'share is locked, unlock' : 'lock the share'}`; },
  moreLabel(row) { return `More for ${row.name}`; },
  lockPath(row) { return row.locked ? 'M5 9V6a4 4 0 0 1 8 0v3' : 'M5 9V6a4 4 0 0 1 7-2.6'; },
  lockFill(row) { return row.locked ? 'currentColor' : 'none'; },
  partsLabel() { return this.parts ? 'Hide parts' : 'Show parts'; },
  showParts() { this.parts = !this.parts; },
}));
Alpine.start();
