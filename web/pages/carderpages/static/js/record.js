// What came off of a run: grams by unit and pass, mass lines to scale, and everything told
// with a way back. What is put on the shelf is a form of its own.
import Alpine from '../vendor/alpine.js';
import { read, send, newKey } from './net.js';
import { editing } from './edit.js';


Alpine.data('record', () => ({
  ...editing,
  view: read('run-data'),
  most: [],

  init() {
    this.count();
  },
  count() {
    const n = Math.max(...this.view.units.map((u) => u.passes.length));
    this.most = Array.from({ length: n }, (_, i) => i + 1);
  },
  take(view) {
    this.view = view;
    this.count();
  },
  named(field, v, n) { return `${field} ${v.key}.${n}`; },
  label(v, n) { return `${v.title}: came off at ${this.view.pass_word} ${n}`; },
  lost(v) { return v.passes.map((p) => p.lost).filter(Boolean).join('; '); },
  asked(v) { return [...new Set(v.passes.flatMap((p) => p.ask))]; },
  minutes(v) { return v.passes.map((p) => p.minutes).filter(Boolean).join(' + '); },
  looks(v) { return v.passes.map((p) => p.look).filter(Boolean).join(', then '); },
  // One line says it all where there is one unit.
  begun() { return this.view.units.length > 1 ? this.view.units.filter((v) => v.step >= 0 || v.done) : []; },
  unitFault(v) { return Object.entries(this.faults).filter(([name]) => name.startsWith(`off ${v.key}.`)).map(([, said]) => said).join(' '); },
  post(body) { return send(`/runs/${this.view.id}/tell`, body); },
  body(field, key, text) {
    const [unit, pass] = key.split('.').map(Number);
    return { key: newKey(), unit, pass, what: field, text, back: '', mg: 0, after: this.view.units[unit].passes[pass - 1].after[field] || 0 };
  },
  stale(current, body, name) {
    this.take(current);
    this.blame({ body: {}, message: 'Another window told this in the meantime. What you typed is still here; type on, and Enter puts it in its place.' }, name);
    return false;
  },
  back(entry) { this.change({ key: newKey(), undoes: entry }); },
  shelvable() { return this.view.units.filter((v) => v.to_shelf); },
  onShelf() {
    const of = (list, words) => list.map((e) => ({ ...e, of: words }));
    return [...of(this.view.shelved, 'of all together'), ...this.view.units.flatMap((v) => of(v.shelved, `of ${v.title}`))];
  },

  // Mass lines: -1 is that of all units.
  line(key) {
    if (key >= 0) return this.view.units[key].line;
    return this.view.units.length === 1 ? this.view.units[0].line : this.view.all;
  },
  flow(p, line) { return { width: `${100 * p.share}%`, ...this.swatchOf(p, line) }; },
  swatchOf(p, line) { return p.key === 'off' && line.hex ? { backgroundColor: line.hex } : {}; },
}));
Alpine.start();
