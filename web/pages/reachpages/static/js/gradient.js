// The gradient page: stops on the left, the ladder on the right.
import Alpine from '../vendor/alpine.js';
import { read } from './net.js';
import { editing, adder } from './edit.js';
import { picking } from './pick.js';
import { seconding } from './second.js';

Alpine.data('gradient', () => ({
  ...editing,
  ...seconding,
  ...adder,
  ...picking,
  view: read('gradient-data'),
  dragged: null,

  at() { return `/gradients/${this.view.id}/change`; },
  act(verb, s, more = {}) {
    const key = s ? s.key : 0;
    return this.change({ change: { verb, key, at: 0, ...more } }, { name: key ? `row ${key}` : '' });
  },
  // body is what a typed field means.
  body(field, key, text) {
    const change = { verb: field, key: Number(key) || 0, at: 0 };
    if (['bridges', 'max_jump', 'passes'].includes(field)) return { change: { ...change, verb: field.replace('_', '-') }, typed: { [field]: text } };
    if (field === 'grams') return { change, typed: { grams: text } };
    return { change: { ...change, text: text.trim() } };
  },
  school(e) { this.change({ change: { verb: 'school', text: e.target.value } }); },
  move(s, way) { return this.act('move', s, { by: way }); },
  moveKey(e, s) {
    if (!e.altKey || !['ArrowUp', 'ArrowDown'].includes(e.key)) return;
    e.preventDefault();
    this.move(s, e.key === 'ArrowUp' ? -1 : 1);
  },
  dragStart(e, s) {
    this.dragged = s.key;
    e.dataTransfer.effectAllowed = 'move';
    e.dataTransfer.setData('text/plain', s.name);
  },
  hold() {},
  dropOn(s) {
    const key = this.dragged;
    this.dragged = null;
    if (key && key !== s.key) this.change({ change: { verb: 'move', key, at: 0, before_key: s.key } });
  },
  addLot(p) { this.change({ change: { verb: 'add-lot', lot_id: p.id } }, { name: 'add' }); },
  addLoose() {
    const kind = this.$refs.loosekind.value;
    const hex = this.$refs.loosehex.value;
    this.addFrom(['loosename', 'loosegrams'], ({ loosename, loosegrams }) => ({
      change: { verb: 'add', stop: { lot_id: null, name: loosename.trim(), kind, preparation: 'combed_top', hex, grams: 0, key: 0 } },
      typed: { grams: loosegrams },
    }), 'add');
  },
  named(s, what) { return `${what} ${s.key}`; },
  isFirst(s) { return this.view.stops[0].key === s.key; },
  isLast(s) { return this.view.stops[this.view.stops.length - 1].key === s.key; },
  isSchool(s) { return this.view.input.school === s; },
  secondKind: 'gradient',
  init() { this.lookOver(); },
  take(view) {
    this.view = view;
    this.lookSoon();
  },
  mend(way) { this.bridgeAt(this.view.rungs[way.component], 1); },
  bridgeAt(r, by) { this.act('bridge', this.view.stops[r.span], { by }); },
  rung(r) { return { height: `${r.height}px`, backgroundImage: `url("${r.band}")` }; },
  parts(r) { return r.parts.map((p) => `${p.percent} % ${p.name}, ${p.weight}`).join(' + '); },
  jumpLabel(r) { return `${r.jump}${r.abrupt ? ', abrupt' : ''}`; },
  moreLabel(r) { return `One more bridge after ${r.name}`; },
  lessLabel(r) { return `One bridge fewer after ${r.name}`; },
  moveLabel(s, way) { return `Move ${s.name} ${way}`; },
}));
Alpine.start();
