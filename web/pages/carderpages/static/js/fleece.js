// A raw fleece on its way to the carder: weights after each stage, its parts, and what is
// looked for. Each thing told is an entry that is sent until it is on disk.
import Alpine from '../vendor/alpine.js';
import { read, send, newKey } from './net.js';
import { editing } from './edit.js';


Alpine.data('fleece', () => ({
  ...editing,
  view: read('fleece-data'),
  keys: {},

  // A field is named by what it tells, the part and the stage: "off 2.4".
  named(what, p, stage) { return stage ? `${what} ${p.unit}.${stage}` : `${what} ${p.unit}`; },
  part(unit) { return this.view.parts.find((p) => p.unit === unit); },
  afterOf(unit) { return unit === 0 ? this.view.after : this.part(unit)?.after || {}; },
  entry(what, unit, rest) { return { key: newKey(), unit, pass: 0, what, text: '', back: '', mg: 0, ...rest }; },
  body(what, key, text) {
    const [unit, stage] = key.split('.').map(Number);
    return this.entry(what, unit, { pass: stage || 0, text, after: this.afterOf(unit)[stage ? `${what} ${stage}` : what] || 0 });
  },
  post(body) { return send(`/runs/${this.view.id}/tell`, body); },
  stale(current, body, name) {
    this.view = current;
    this.blame({ body: {}, message: 'Another window told this in the meantime. What you typed is still here; type on, and Enter puts it in its place.' }, name);
    return false;
  },
  partFault(p) { return Object.entries(this.faults).filter(([n]) => n.split(' ')[1]?.split('.')[0] === String(p.unit)).map(([, said]) => said).join(' '); },
  async add() {
    const el = this.$refs.newpart;
    const text = el.value;
    if (!text.trim()) {
      this.faults = { ...this.faults, newpart: 'Give the part a name.' };
      return;
    }
    el.value = '';
    const ok = await this.change(() => this.entry('part', this.view.next, { text }), { name: 'newpart' });
    if (!ok && el.value === '') el.value = text;
  },
  washed(p, e) {
    const stands = this.view.log.find((l) => l.where === `${p.name}, washed` && l.stands);
    if (e.target.checked) this.change(() => this.entry('look', p.unit, { pass: 3, text: 'done' }));
    else if (stands) this.back(stands.id);
  },
  take1(key, e) {
    const words = this.view.log.find((l) => l.stands && l.key === key);
    if (e.target.checked) this.change(() => this.entry('tick', 0, { text: key }));
    else if (words) this.back(words.id);
  },
  back(entry) { this.change({ key: newKey(), undoes: entry }); },
  keyOf(p) {
    this.keys[p.unit] = this.keys[p.unit] || newKey();
    return this.keys[p.unit];
  },
  sure(r) { return { width: `${100 * r.low}%` }; },
  maybe(r) { return { width: `${100 * r.span}%` }; },
}));
Alpine.start();
