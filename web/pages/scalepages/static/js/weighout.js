// What came off of each unit: grams and a note, saved as they are entered.
import Alpine from '../vendor/alpine.js';
import { send, read } from './net.js';
import { editing } from './edit.js';
import './second.js';

Alpine.data('cameoff', () => ({
  ...editing,
  view: read('came-data'),

  at() { return `/weighouts/${this.view.id}/off`; },
  named(v, what) { return `${what} ${v.key}`; },
  label(v, what) { return `Unit ${v.title}: ${what}`; },
  // body is what a typed field means, of the unit as it is when its turn comes.
  body(field, key, text) {
    const unit = Number(key);
    return { unit, version: this.view.units[unit].version, [field]: text };
  },
  post(body) { return send(this.at(), body); },
  stale(current, body, name) {
    this.view = current;
    this.blame({ body: {}, message: 'Another window noted this unit in the meantime. What you typed is still here; type on, and Enter puts it in its place.' }, name);
    return false;
  },
}));
Alpine.start();
