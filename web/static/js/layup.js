// The lay-up page: the bed, what is left to lay, and the layers. Numbers and
// sentences come from the program; this draws, drags and sends changes.
import Alpine from '../vendor/alpine.js';
import { read } from './net.js';
import { editing } from './edit.js';
import { face, section } from './bed.js';

const clamp = (x) => Math.min(1, Math.max(0, x));

Alpine.data('layup', () => ({
  ...editing,
  view: read('layup-data'),
  component: 0, // what the next stroke lays
  method: '',
  layer: -1, // into which layer; -1: a new one on top
  lay: -1, // the lay in hand, of that layer
  along: false, // the section runs up the board
  stroke: null,
  held: null,
  trying: false,
  moved: false,
  spot: '',

  init() {
    this.face = this.$refs.face; // refs are gone while a notice that was clicked goes
    this.section = this.$refs.section;
    this.along = this.isBoard() && !!this.view.rolls && this.view.rolls.count > 1;
    const left = this.view.fibres.findIndex((f) => f.left_g > 0);
    this.component = Math.max(0, left);
    this.$nextTick(() => this.paint());
    new ResizeObserver(() => this.paint()).observe(this.face.parentElement);
  },
  at() { return `/layups/${this.view.id}/change`; },
  take(view) {
    // The handle has gone on while the numbers were on their way.
    const mine = this.held ? this.current() : null;
    const { from, to, start, end } = mine || {};
    this.view = view;
    if (mine) Object.assign(this.current(), { from, to, start, end });
    this.faults = {};
    this.problem = '';
    if (this.layer >= view.layers.length) this.choose(-1);
    else if (this.layer >= 0 && this.lay >= view.layers[this.layer].lays.length) this.lay = -1;
    this.paint();
  },
  isBoard() { return this.view.bed.type === 'board'; },
  faceHeight() {
    if (this.view.bed.type === 'drum') return 240;
    return Math.round(Math.min(480, (this.face.clientWidth * this.view.bed.length) / this.view.bed.width));
  },
  paint() {
    const from = performance.now();
    const css = getComputedStyle(document.documentElement);
    const view = Alpine.raw(this.view);
    face(this.face, view, this.faceHeight());
    this.places = section(this.section, view, 118, {
      along: this.along, chosen: this.lay >= 0 ? { layer: this.layer, at: this.lay } : null,
      ink: css.getPropertyValue('--ink'), wrong: css.getPropertyValue('--wrong'),
    });
    performance.measure('bed', { start: from, end: performance.now() });
  },

  // Changes. spot is where on the page it was done, so that what is wrong is
  // said there.
  act(spot, change, typed) {
    this.spot = spot;
    return this.change({ change, typed: typed || {} });
  },
  typed(spot, event, verb, field) {
    this.act(spot, { verb }, { [field || 'times']: event.target.value });
  },
  setEquipment(e) { this.act('settings', { verb: 'equipment', equipment_id: Number(e.target.value) }); },
  flag(e, verb) { this.act('settings', { verb, times: e.target.checked ? 1 : 0 }); },
  rename(e) { this.act('name', { verb: 'name', text: e.target.value }); },
  takeLayer(i) { this.act('lays', { verb: 'take-layer', layer: i }); },
  mirror() { this.act('lays', { verb: 'mirror' }); },
  laidBy(i, j, method) { return this.view.input.layers[i]?.lays[j]?.method === method; },
  faultIn(spot) {
    if (this.spot !== spot) return '';
    return [...new Set(Object.values(this.faults))].join(' ');
  },
  // What is wrong is said where it was done; a mend has no place of its own.
  fields(errors) { return errors.length > 0 && this.spot !== ''; },

  // What to lay.
  fibre() { return this.view.fibres[this.component] || this.view.fibres[0]; },
  pick(i) {
    this.component = i;
    this.method = '';
  },
  isPicked(i) { return this.component === i; },
  how() { return this.method || this.fibre().usual; },
  methodIs(m) { return this.how() === m; },
  setMethod(e) { this.method = e.target.value; },
  canFeed() { return this.view.bed.type === 'drum'; },
  layTyped() {
    const r = this.$refs;
    const typed = { from: r.from.value, to: r.to.value, grams: r.grams.value };
    if (r.start) Object.assign(typed, { start: r.start.value, end: r.end.value });
    this.putDown({}, typed, 'lay');
  },
  async putDown(place, typed, spot) {
    const lay = { component: this.component, from: 0, to: 1, start: 0, end: 1, ...place, grams: 0, method: this.how() };
    const layer = this.layer;
    if (await this.act(spot, { verb: 'lay', layer, lay }, typed) === false) return;
    const next = this.view.fibres.findIndex((f) => f.left_g > 0);
    if (this.fibre().left_g <= 0 && next >= 0) this.pick(next);
  },

  // Layers and lays.
  choose(i) {
    this.layer = this.layer === i ? -1 : i;
    this.lay = -1;
    this.paint();
  },
  isLayer(i) { return this.layer === i; },
  inHand(i, j) { return this.layer === i && this.lay === j; },
  hold(i, j) {
    this.layer = i;
    this.lay = j;
    this.paint();
  },
  current() { return this.layer >= 0 && this.lay >= 0 ? this.view.input.layers[this.layer].lays[this.lay] : null; },
  setLay(i, j, typed, lay) {
    this.act('lays', { verb: 'set', layer: i, at: j, lay: { ...this.view.input.layers[i].lays[j], ...lay } }, typed);
  },
  cell(event, i, j, field) { this.setLay(i, j, { [field]: event.target.value }); },
  cellMethod(event, i, j) { this.setLay(i, j, {}, { method: event.target.value }); },
  takeLay(i, j) { this.act('lays', { verb: 'take', layer: i, at: j }); },
  async move(i, way) {
    const to = i + way;
    if (to < 0 || to >= this.view.layers.length) return;
    if (await this.act('lays', { verb: 'move', layer: i, to }) === false) return;
    if (this.layer === i) this.layer = to;
    this.paint();
    this.$nextTick(() => document.querySelectorAll('.layerhead')[to]?.focus());
  },
  layerKey(e, i) {
    if (e.altKey && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) {
      e.preventDefault();
      this.move(i, e.key === 'ArrowUp' ? -1 : 1);
    }
  },
  split(i) { this.act('lays', { verb: 'split', layer: i }, { times: this.$refs.parts.value }); },
  repeat() {
    const r = this.$refs;
    this.act('repeat', { verb: 'repeat', layer: Number(r.first.value) - 1, to: Number(r.last.value) - 1 }, { times: r.times.value });
  },
  mend(f) {
    if (f.mend === 'rolags') this.act('', { verb: 'rolags', times: Number(/\d+/.exec(f.do)[0]) });
    else this.act('', { verb: f.mend, at: f.component, times: 1 });
  },
  joins(event, i) { this.act('joins', { verb: 'joins', at: i }, { times: event.target.value }); },
  build() {
    const r = this.$refs;
    this.act('build', { verb: 'build', build: {
      builder: r.builder.value, repeats: Number(r.repeats.value) || 0, bare: r.bare.checked, smooth: r.smooth.checked, rolags: this.view.input.rolags,
      draft: this.view.input.draft, passes: 0, delicate_now: r.now.checked, step_g: 0, base: r.base.value === '' ? null : Number(r.base.value),
    } });
  },
  turn() {
    this.along = !this.along;
    this.$nextTick(() => this.paint());
  },

  // The pointer on the face: draw across to lay; a click takes a lay in hand.
  spotOn(e) {
    const box = this.face.getBoundingClientRect();
    return { x: clamp((e.clientX - box.left) / box.width), y: clamp((e.clientY - box.top) / box.height) };
  },
  snap(x, size) { return clamp((Math.round((x * size) / 5) * 5) / size); },
  down(e) {
    if (e.button !== 0) return;
    this.stroke = { from: this.spotOn(e), to: this.spotOn(e) };
    e.target.setPointerCapture(e.pointerId);
  },
  draw(e) { if (this.stroke) this.stroke.to = this.spotOn(e); },
  up(e) {
    if (!this.stroke) return;
    this.draw(e);
    const { place, click } = this.stroked();
    const at = this.stroke.to;
    this.stroke = null;
    if (click) this.grab(at);
    else this.putDown(place, { grams: this.$refs.grams.value }, 'lay');
  },
  giveUp() { this.stroke = null; },
  // stroked is what a stroke covers: across from side to side; also from end
  // to end where it was drawn tall and the fibre need not run all round.
  stroked() {
    const { from, to } = this.stroke;
    const { bed } = this.view;
    const lo = this.snap(Math.min(from.x, to.x), bed.width);
    const hi = this.snap(Math.max(from.x, to.x), bed.width);
    const tall = Math.abs(to.y - from.y) > 0.15 && this.how() !== 'feed';
    const place = { from: lo, to: hi, start: 0, end: 1 };
    if (tall) {
      place.start = this.snap(Math.min(from.y, to.y), bed.length);
      place.end = this.snap(Math.max(from.y, to.y), bed.length);
    }
    if (tall && hi - lo < 0.03) { place.from = 0; place.to = 1; }
    return { place, click: hi - lo < 0.015 && !tall };
  },
  band() {
    if (!this.stroke) return { display: 'none' };
    const { place } = this.stroked();
    return { left: `${place.from * 100}%`, width: `${(place.to - place.from) * 100}%`, top: `${place.start * 100}%`, height: `${(place.end - place.start) * 100}%` };
  },
  grab({ x, y }) {
    const inside = (v) => x >= v.from && x <= v.to && y >= v.start && y <= v.end;
    const { layers } = this.view.input;
    for (let i = layers.length - 1; i >= 0; i -= 1) {
      const j = layers[i].lays.findIndex(inside);
      if (j >= 0) { this.hold(i, j); return; }
    }
  },
  sectionClick(e) {
    const box = this.section.getBoundingClientRect();
    const ctx = this.section.getContext('2d');
    const scale = this.section.width / box.width;
    for (const p of [...this.places].reverse()) {
      if (ctx.isPointInPath(p.path, (e.clientX - box.left) * scale, (e.clientY - box.top) * scale)) { this.hold(p.layer, p.at); return; }
    }
  },

  // Handles of the lay in hand.
  handles() {
    const v = this.current();
    if (!v) return [];
    const { bed } = this.view;
    const mm = (x, size) => Math.round(x * size);
    const name = this.view.layers[this.layer].lays[this.lay].name;
    const out = ['from', 'to'].map((edge) => ({
      edge, label: `${name}, ${edge === 'from' ? 'left' : 'right'} edge`, now: mm(v[edge], bed.width), max: mm(1, bed.width), upright: true,
      style: { left: `${v[edge] * 100}%`, top: `${v.start * 100}%`, height: `${(v.end - v.start) * 100}%` },
    }));
    if (v.method !== 'feed') {
      for (const edge of ['start', 'end']) {
        out.push({
          edge, label: `${name}, ${edge === 'start' ? 'upper' : 'lower'} edge`, now: mm(v[edge], bed.length), max: mm(1, bed.length), upright: false,
          style: { top: `${v[edge] * 100}%`, left: `${v.from * 100}%`, width: `${(v.to - v.from) * 100}%` },
        });
      }
    }
    return out;
  },
  shift(edge, x) {
    const v = this.current();
    const low = 0.01;
    const size = edge === 'from' || edge === 'to' ? this.view.bed.width : this.view.bed.length;
    const at = this.snap(x, size);
    const other = { from: 'to', to: 'from', start: 'end', end: 'start' }[edge];
    v[edge] = edge === 'from' || edge === 'start' ? Math.min(at, v[other] - low) : Math.max(at, v[other] + low);
    this.paint();
  },
  handleKey(e, hd) {
    const way = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[e.key];
    if (!way) return;
    e.preventDefault();
    const before = JSON.parse(JSON.stringify(this.view.input));
    const mm = hd.now + way * (e.shiftKey ? 20 : 5);
    this.shift(hd.edge, mm / hd.max);
    this.keepPlace(before);
  },
  handleDown(e) {
    this.held = JSON.parse(JSON.stringify(this.view.input));
    e.target.setPointerCapture(e.pointerId);
    e.stopPropagation();
  },
  handleMove(e, hd) {
    if (!this.held) return;
    const { x, y } = this.spotOn(e);
    this.shift(hd.edge, hd.upright ? x : y);
    this.moved = true;
    this.tryOut();
  },
  // tryOut asks what the bed would be as it is drawn now, and again as long as
  // the handle went on in the meantime. Nothing is kept.
  async tryOut() {
    if (this.trying) return;
    this.trying = true;
    while (this.moved && this.held) {
      this.moved = false;
      await this.change({ input: this.held, change: { verb: 'set', layer: this.layer, at: this.lay, lay: { ...this.current() } }, typed: {} }, false, false);
    }
    this.trying = false;
  },
  handleUp(e) {
    if (!this.held) return;
    e.stopPropagation();
    const before = this.held;
    this.held = null;
    this.keepPlace(before);
  },
  // keepPlace sends the lay in hand as it lies now, as one change of what was
  // there before.
  async keepPlace(before) {
    const lay = { ...this.current() };
    await this.queue;
    this.view.input = before;
    if (await this.act('lays', { verb: 'set', layer: this.layer, at: this.lay, lay }) === false) this.paint();
  },

  // Words and places of the page.
  lanes() {
    const list = this.along && this.view.rolls ? this.view.rolls.each : this.view.lanes;
    return list.map((v) => ({
      text: v.text, state: v.state || '', style: { left: `${v.from * 100}%`, width: `${(v.to - v.from) * 100}%` }, narrow: v.to - v.from < 0.045,
      word: { full: ', too full', thin: ', thin' }[v.state] || '',
    }));
  },
  profile() {
    if (this.along) return '';
    const y = (load) => 30 - Math.min(1.4, load) * 20;
    let d = '';
    for (const v of this.view.lanes) d += `${d ? 'L' : 'M'}${v.from * 1000} ${y(v.load)}L${v.to * 1000} ${y(v.load)}`;
    return d;
  },
  sectionLabel() {
    return `Section ${this.along ? 'along the board' : 'across the width'}: ${this.view.layers.map((l) => `layer ${l.number} ${l.title} ${l.weight} ${this.view.unit}`).join(', ')}. Highest ${this.view.height}.`;
  },
  faceLabel() { return `Face of the lay-up on ${this.view.equipment}, width across. ${this.view.fibres.map((f) => `${f.letter} ${f.name}`).join(', ')}.`; },
  turnLabel() { return this.along ? 'section across the width' : 'section along the board'; },
  intoLabel() { return this.layer >= 0 ? `into layer ${this.layer + 1}` : 'on top'; },
  leftLabel(f) { return f.left_g > 0 ? `${f.left} of ${f.grams} left` : `all ${f.grams} laid`; },
  mendLabel(f) { return f.do; },
  severity(f) { return f.severity; },
  keys(e) {
    this.key(e);
    if (e.ctrlKey || e.metaKey || e.altKey || /^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName)) return;
    const n = Number(e.key) - 1;
    if (n >= 0 && n < this.view.fibres.length) this.pick(n);
  },
}));
Alpine.start();
