// The gradient page: stops on the left, the ladder on the right.
import Alpine from '../vendor/alpine.js';
import { read } from './net.js';
import { editing } from './edit.js';
import { picking } from './pick.js';

Alpine.data('gradient', () => ({
  ...editing,
  ...picking,
  view: read('gradient-data'),
  own: ['name', 'bridges', 'max_jump', 'add'],

  at() { return `/gradients/${this.view.id}/change`; },
  act(verb, at = 0, to = 0) { return this.change({ verb, at, to }); },
  typed(event, verb, at = 0) { return this.change({ verb, at, text: event.target.value }); },
  async move(i, way) {
    const to = i + way;
    if (to < 0 || to >= this.view.stops.length) return;
    await this.act('move', i, to);
    this.$nextTick(() => document.querySelectorAll('.stops .stopname')[to].focus());
  },
  moveKey(e, i) {
    if (!e.altKey || !['ArrowUp', 'ArrowDown'].includes(e.key)) return;
    e.preventDefault();
    this.move(i, e.key === 'ArrowUp' ? -1 : 1);
  },
  dragStart(e, i) {
    this.dragged = i;
    e.dataTransfer.effectAllowed = 'move';
    e.dataTransfer.setData('text/plain', String(i));
  },
  hold() {},
  dropOn(i) {
    if (this.dragged !== undefined && this.dragged !== i) this.act('move', this.dragged, i);
    this.dragged = undefined;
  },
  addLot(p) { this.change({ verb: 'addlot', lot: p.id }); },
  addLoose() {
    const r = this.$refs;
    this.change({ verb: 'add', text: r.loosegrams.value, stop: {
      lot_id: null, name: r.loosename.value.trim(), kind: r.loosekind.value, preparation: 'combed_top', hex: r.loosehex.value, grams: 0,
    } });
  },
  stopFault(i) {
    for (const k of ['name', 'hex', 'grams', 'kind', 'lot_id']) {
      const f = this.faults[`stops[${i}].${k}`];
      if (f) return f;
    }
    return '';
  },
  looseFault() { return this.stopFault(this.view.stops.length); },
  fields(errors) {
    return errors.length > 0 && errors.every((e) => this.own.includes(e.field) || /^stops\[\d+\]/.test(e.field));
  },
  isSchool(s) { return this.view.input.school === s; },
  rung(r) { return { height: `${r.height}px`, backgroundImage: `url("${r.band}")` }; },
  parts(r) { return r.parts.map((p) => `${p.percent} % ${p.name}, ${p.weight}`).join(' + '); },
  jumpLabel(r) { return `${r.jump}${r.abrupt ? ', abrupt' : ''}`; },
  moreLabel(r) { return `One more bridge after ${r.name}`; },
  lessLabel(r) { return `One bridge fewer after ${r.name}`; },
  moveLabel(s, way) { return `Move ${s.name} ${way}`; },
}));
Alpine.start();
