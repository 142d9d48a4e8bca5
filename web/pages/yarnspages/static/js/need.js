// The need page: what it is for on the left, what that takes on the right.
import Alpine from '../vendor/alpine.js';
import { read } from './net.js';
import { editing } from './edit.js';
import { lotSearch } from './lots.js';
import './second.js';

if (document.getElementById('need-data')) {
  Alpine.data('need', () => ({
    ...editing,
    ...lotSearch,
    lotsFound: read('lots-data'),
    view: read('need-data'),

    at() { return `/needs/${this.view.id}/change`; },
    act(verb, more = {}, name = '') { return this.change({ change: { verb, ...more } }, { name }); },
    body(field, key, text) {
      if (field === 'what') return { change: { verb: 'set', field, text: text.trim() } };
      if (field === 'part') return { change: { verb: 'part', key: Number(key) }, typed: { part: text } };
      return { change: { verb: 'set', field }, typed: { [field]: text } };
    },
    lock(f) { return this.act('lock', { field: f.name }, f.name); },
    lockLabel(f) { return `${f.lock} ${f.label}`; },
    usual(f) { return this.act('usual', { field: f.name }, f.name); },
    usualLabel(f) { return `Take the usual: ${f.label}`; },
    way(e) { this.act('set', { field: 'way', text: e.target.value }); },
    look(e) { this.act('set', { field: 'look', text: e.target.value }); },
    lookOf(b, e) { this.act('look', { key: b.key, text: e.target.value }, `look ${b.key}`); },
    isLookOf(b, w) { return b.look === w; },
    lookLabel(b) { return `How ${b.name} should look`; },
    use(w) { this.act('use', { text: w.name }); },
    lot(e) { this.act('set', { field: 'lot', value: Number(e.target.value) }, 'lot'); },
    isWay(w) { return this.view.way === w; },
    isLook(w) { return this.view.look === w; },
    chosenLot() { return this.view.lot; },
    partsHead(unit) { return this.isWay('figure') ? `Weighs, ${unit}` : 'Parts'; },
    partName(b) { return `part ${b.key}`; },
    partLabel(b) { return `Part of ${b.name}`; },
    flow(p) { return { width: `${p.share}%` }; },
    dab(b) { return b.hex ? { backgroundColor: b.hex } : {}; },
    fieldFault(f) { return this.fault(f.name); },
  }));
}
Alpine.start();
