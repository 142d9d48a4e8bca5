// The lay-up page: the bed, what is left to lay, and the layers. Numbers and
// sentences come from the program; this draws, drags and sends changes.
import Alpine from '../vendor/alpine.js';
import { afterPaint } from './after.js';
import { read } from './net.js';
import { editing, plain } from './edit.js';
import { seconding } from './second.js';
import { face, section } from './bed.js';

const clamp = (x) => Math.min(1, Math.max(0, x));

Alpine.data('layup', () => ({
  ...editing,
  ...seconding,
  view: read('layup-data'),
  component: 0, // what the next stroke lays
  method: '',
  layer: 0, // the key of the layer that it goes into; 0: a new one on top
  open: 0, // the key of the layer whose lays are shown: layer, once its head is marked
  lay: 0, // the key of the lay in hand
  along: false, // the section runs up the board
  stroke: null,
  mine: null, // where the lay in hand is held, while the answers are not there
  trying: false,
  spot: '',

  init() {
    this.second = this.view.second;
    this.face = this.$refs.face; // refs are gone while a notice that was clicked goes
    this.section = this.$refs.section;
    this.along = this.isBoard() && !!this.view.rolls && this.view.rolls.count > 1;
    const left = this.view.fibres.findIndex((f) => f.left_g > 0);
    this.component = Math.max(0, left);
    this.$nextTick(() => this.paint());
    this.$watch('layer', () => afterPaint(() => { this.open = this.layer; }));
    new ResizeObserver(() => this.paint()).observe(this.face.parentElement);
  },
  at() { return `/layups/${this.view.id}/change`; },
  // take puts a view in place; a handle that went on since stays where it is
  // held.
  secondKind: 'lay-up',

  mendHere(f) { return this.act('', { verb: 'mend', text: f.rule, at: f.component, layer: f.layer }); },
  take(view) {
    this.view = view;
    this.putSecond(view.second);
    if (this.layer && !view.input.layers.some((l) => l.key === this.layer)) this.layer = 0;
    const lay = this.current();
    if (!lay) {
      this.lay = 0;
      this.mine = null;
    } else if (this.mine) Object.assign(lay, this.mine.place);
    this.paint();
  },
  isBoard() { return this.view.bed.type === 'board'; },
  faceHeight() {
    if (this.view.bed.type === 'drum') return 240;
    return Math.round(Math.min(480, (this.face.clientWidth * this.view.bed.length) / this.view.bed.width));
  },
  paint() {
    const from = performance.now();
    face(this.face, Alpine.raw(this.view), this.faceHeight());
    this.paintSection();
    performance.measure('bed', { start: from, end: performance.now() });
  },
  // The section alone shows which lay is in hand; the face is the same for all.
  paintSection() {
    const css = getComputedStyle(document.documentElement);
    this.places = section(this.section, Alpine.raw(this.view), 118, {
      along: this.along, chosen: this.lay ? this.placeOf(this.lay) : null,
      ink: css.getPropertyValue('--ink'), wrong: css.getPropertyValue('--wrong'),
    });
  },

  // Changes. spot is where on the page it was done, so that what is wrong is
  // said there.
  act(spot, change, typed = {}) { return this.change({ change, typed }, { name: spot }); },
  // body is what a typed field means: of a lay, of a fibre, or of the whole.
  body(field, key, text) {
    const n = Number(key);
    if (field === 'name') return { change: { verb: 'name', text: text.trim() } };
    if (field === 'joins') return { change: { verb: 'joins', at: n }, typed: { times: text } };
    if (field === 'hole') return { change: { verb: 'hole' }, typed: { hole: text } };
    if (field === 'alone') return { change: { verb: 'alone', at: n }, typed: { times: text } };
    if (field === 'draft') return { change: { verb: 'draft' }, typed: { draft: text } };
    if (field === 'equipment') return { change: { verb: 'equipment', equipment_id: Number(text) } };
    if (field === 'refeed') return { change: { verb: 'refeed', text } };
    if (field === 'abreast') return { change: { verb: 'fed', at: this.component, text: 'abreast' }, typed: { times: text } };
    if (field === 'turns') return { change: { verb: 'turns-about' }, typed: { times: text } };
    if (['units', 'rolags', 'passes', 'strips'].includes(field)) return { change: { verb: field }, typed: { times: text } };
    const lay = this.layOf(n);
    if (!lay) return null;
    if (field === 'method') return { change: { verb: 'set', lay_key: n, lay: { ...lay, method: text } } };
    return { change: { verb: 'set', lay_key: n, lay: { ...lay } }, typed: { [field]: text } };
  },
  uses(where, key) { return (this.view.input[where] || []).includes(key); },
  tool(e, verb, text) { this.act('settings', { verb, text, times: e.target.checked ? 1 : 0 }); },
  flag(e, verb) { this.act('settings', { verb, times: e.target.checked ? 1 : 0 }); },
  takeLayer(l) { this.act('lays', { verb: 'take-layer', layer_key: l.key }); },
  mirror() { this.act('lays', { verb: 'mirror' }); },
  named(v, what) { return `${what} ${v.key}`; },
  joinsName(i) { return `joins ${i}`; },
  // laysFault is what is wrong with any lay that is typed in.
  laysFault() {
    return [this.fault('lays'), ...this.view.layers.flatMap((l) => l.lays.map((v) => this.faultOf(v.key)))].filter(Boolean).join(' ');
  },
  settingsFault() { return ['settings', 'units', 'rolags', 'passes', 'refeed', 'strips', 'turns', 'draft', 'equipment'].map((f) => this.fault(f)).filter(Boolean).join(' '); },
  joinsFault() { return this.view.fibres.map((f, i) => this.fault(`joins ${i}`)).filter(Boolean).join(' '); },
  aloneFault() { return this.view.fibres.map((f, i) => this.fault(`alone ${i}`)).filter(Boolean).join(' '); },
  offAs(verb, text) { this.act('off', { verb, text }); },
  aloneAll(times) { this.act('alone', { verb: 'alone', at: -1, times }); },

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
  // What the picked fibre is there for.
  useIs(use) { return this.fibre().use === use; },
  isUpon() { return this.useIs('over') || this.useIs('paint'); },
  useAs(text) {
    const { near, fade } = this.$refs;
    const upon = text === 'over' || text === 'paint';
    this.act('use', { verb: 'use', at: this.component, text, near: upon && near.value !== '' ? [Number(near.value)] : [] },
      text === 'over' ? { fade: fade.value } : {});
  },
  feedAs(text) { return this.act('use', { verb: 'fed', at: this.component, text, times: text === 'abreast' ? 2 : 0 }); },
  copyLays() {
    const { copyat, copyto, moved, mirrored } = this.$refs;
    this.act('copy', { verb: 'copy', at: Number(copyat.value), to: Number(copyto.value), times: mirrored.checked ? 1 : 0 }, { moved: moved.value });
  },
  canFeed() { return this.view.bed.type === 'drum'; },
  byHand() { return this.view.bed.type === 'hands'; },
  again() { return this.canFeed() || this.byHand(); },
  // layTyped lays what the form says; it stays as typed, for the next.
  layTyped() {
    const r = this.$refs;
    const typed = { from: r.from.value, to: r.to.value, grams: r.grams.value };
    if (r.start) Object.assign(typed, { start: r.start.value, end: r.end.value });
    this.putDown({}, typed);
  },
  async putDown(place, typed) {
    const { component } = this;
    const lay = { component, from: 0, to: 1, start: 0, end: 1, ...place, grams: 0, method: this.how() };
    if (await this.act('lay', { verb: 'lay', layer: -1, layer_key: this.layer, lay }, typed) === false) return;
    const next = this.view.fibres.findIndex((f) => f.left_g > 0);
    if (this.component === component && this.fibre().left_g <= 0 && next >= 0) this.pick(next);
  },

  // Layers and lays, by their keys.
  placeOf(key) {
    const { layers } = this.view.input;
    for (let layer = 0; layer < layers.length; layer += 1) {
      const at = layers[layer].lays.findIndex((v) => v.key === key);
      if (at >= 0) return { layer, at };
    }
    return null;
  },
  layOf(key) {
    const p = this.placeOf(key);
    return p ? this.view.input.layers[p.layer].lays[p.at] : null;
  },
  current() { return this.lay ? this.layOf(this.lay) : null; },
  choose(l) {
    this.layer = this.layer === l.key ? 0 : l.key;
    if (this.lay) this.markLater();
    this.lay = 0;
    this.mine = null;
  },
  isLayer(l) { return this.layer === l.key; },
  isOpen(l) { return this.open === l.key; },
  inHand(v) { return this.lay === v.key; },
  hold(key) {
    const p = this.placeOf(key);
    if (!p) return;
    this.layer = this.view.input.layers[p.layer].key;
    this.lay = key;
    this.mine = null;
    this.markLater();
  },
  markLater() { afterPaint(() => this.paintSection()); },
  takeLay(v) { this.act('lays', { verb: 'take', lay_key: v.key }); },
  // move takes a layer one place on from where it lies when its turn has come.
  move(l, way) {
    return this.change(() => {
      const at = this.view.input.layers.findIndex((v) => v.key === l.key);
      const to = at + way;
      return at < 0 || to < 0 || to >= this.view.layers.length ? null : { change: { verb: 'move', layer_key: l.key, to } };
    }, { name: 'lays' });
  },
  layerKey(e, l) {
    if (e.altKey && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) {
      e.preventDefault();
      this.move(l, e.key === 'ArrowUp' ? -1 : 1);
    }
  },
  split(l) { this.act('lays', { verb: 'split', layer_key: l.key }, { times: this.$refs.parts.value }); },
  repeat() {
    const r = this.$refs;
    const key = (v) => this.view.input.layers[Number(v) - 1]?.key || 0;
    this.act('repeat', {
      verb: 'repeat', layer: Number(r.first.value) - 1, layer_key: key(r.first.value), to: Number(r.last.value) - 1, to_key: key(r.last.value),
    }, { times: r.times.value });
  },
  mend(way, f) { this.act('', { verb: way.mend, at: f.component, times: way.times || 1 }); },
  refeeds() { return this.canFeed() && this.view.passes > 1; },
  refeedNow() { return this.view.input.refeed || 'spread'; },
  rightShown() { return this.view.all_laid && !!this.view.right; },
  build() {
    const r = this.$refs;
    const passes = Number(r.passes.value || this.view.input.passes) || 0; // told here, else as the lay-up has it
    this.act('build', { verb: 'build', build: {
      builder: r.builder.value, repeats: Number(r.repeats.value) || 0, bare: r.bare.checked, order_by: r.orderby.value, mirrored: r.mirror.checked,
      thick: r.thick.value.split(/[\s,;:/]+/).filter(Boolean).map(Number), rolags: this.view.input.rolags,
      draft: this.view.input.draft, passes, delicate_now: r.now.checked, step_g: 0, base: r.base.value === '' ? null : Number(r.base.value),
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
    else this.putDown(place, { grams: this.$refs.grams.value });
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
      const v = layers[i].lays.find(inside);
      if (v) { this.hold(v.key); return; }
    }
  },
  sectionClick(e) {
    const box = this.section.getBoundingClientRect();
    const ctx = this.section.getContext('2d');
    const scale = this.section.width / box.width;
    for (const p of [...this.places].reverse()) {
      if (ctx.isPointInPath(p.path, (e.clientX - box.left) * scale, (e.clientY - box.top) * scale)) { this.hold(this.view.input.layers[p.layer].lays[p.at].key); return; }
    }
  },

  // Handles of the lay in hand.
  handles() {
    const v = this.current();
    if (!v) return [];
    const { bed } = this.view;
    const mm = (x, size) => Math.round(x * size);
    const p = this.placeOf(this.lay);
    const { name } = this.view.layers[p.layer].lays[p.at];
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
  // shift holds an edge of the lay in hand somewhere else and draws it there;
  // it is the maker's until her own change is answered.
  shift(edge, x) {
    const v = this.current();
    const before = { from: v.from, to: v.to, start: v.start, end: v.end };
    const low = 0.01;
    const size = edge === 'from' || edge === 'to' ? this.view.bed.width : this.view.bed.length;
    const at = this.snap(x, size);
    const other = { from: 'to', to: 'from', start: 'end', end: 'start' }[edge];
    v[edge] = edge === 'from' || edge === 'start' ? Math.min(at, v[other] - low) : Math.max(at, v[other] + low);
    const { from, to, start, end } = v;
    this.mine = { before, ...this.mine, place: { from, to, start, end } };
    this.paint();
  },
  handleKey(e, hd) {
    const way = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[e.key];
    if (!way) return;
    e.preventDefault();
    const v = this.current();
    const size = hd.upright ? this.view.bed.width : this.view.bed.length;
    this.shift(hd.edge, v[hd.edge] + (way * (e.shiftKey ? 20 : 5)) / size);
    this.keepPlace();
  },
  handleDown(e) {
    this.mine = { held: plain(this.view.input) };
    e.target.setPointerCapture(e.pointerId);
    e.stopPropagation();
  },
  handleMove(e, hd) {
    if (!this.mine || !this.mine.held) return;
    const { x, y } = this.spotOn(e);
    this.shift(hd.edge, hd.upright ? x : y);
    this.mine.moved = true;
    this.tryOut();
  },
  // tryOut asks what the bed would be as it is drawn now, and again as long as
  // the handle went on in the meantime. Nothing is kept.
  async tryOut() {
    if (this.trying) return;
    this.trying = true;
    while (this.mine && this.mine.moved) {
      this.mine.moved = false;
      await this.change(() => (this.mine && this.mine.held ? this.setPlace(this.mine.held) : null), { keep: false, name: 'lays' });
    }
    this.trying = false;
  },
  handleUp(e) {
    if (!this.mine || !this.mine.held) return;
    e.stopPropagation();
    const { held, place } = this.mine;
    this.mine.held = null;
    if (place) this.keepPlace(held);
    else this.mine = null;
  },
  setPlace(input) {
    const lay = { ...this.layOf(this.lay), ...this.mine.place };
    return { ...(input ? { input } : {}), change: { verb: 'set', lay_key: this.lay, lay } };
  },
  // keepPlace sends where the lay in hand is held; presses that come while it
  // waits go along with it, and what comes later is sent after it.
  async keepPlace(held) {
    if (this.sending) return;
    this.sending = true;
    let sent = null;
    const ok = await this.change(() => {
      this.sending = false;
      if (!this.mine) return null;
      sent = this.mine.place;
      return this.setPlace(held);
    }, { name: 'lays' });
    if (ok === false && this.mine && this.current()) Object.assign(this.current(), this.mine.before);
    if (this.mine && (this.mine.place === sent || ok === false)) this.mine = null;
    this.paint();
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
  intoLabel() {
    const at = this.view.input.layers.findIndex((l) => l.key === this.layer);
    return at >= 0 ? `into layer ${at + 1}` : 'on top';
  },
  leftLabel(f) { return f.left_g > 0 ? `${f.left} of ${f.grams} left` : `all ${f.grams} laid`; },
  keys(e) {
    this.key(e);
    if (e.ctrlKey || e.metaKey || e.altKey || /^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName)) return;
    const n = Number(e.key) - 1;
    if (n >= 0 && n < this.view.fibres.length) this.pick(n);
  },
}));
Alpine.start();
