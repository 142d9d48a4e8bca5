// Stock-taking: lot after lot on the pan, counted against the ledger. What is counted is
// booked at once; one after the other is sent, and stays typed until it is on disk.
import Alpine from '../vendor/alpine.js';
import { read, send, newKey, untilAnswered, wrongOf } from './net.js';
import { focusShown } from './focus.js';
import { plating } from './plate.js';


Alpine.data('stock', () => ({
  ...plating,
  view: read('stock-data'),
  now: 0, // the lot that is counted
  text: '',
  wrong: '',
  status: '',
  entries: [],
  choice: null,
  working: false,

  init() {
    this.now = Math.max(0, this.view.lots.findIndex((l) => !l.count));
    this.listen();
    this.$nextTick(() => this.focus());
    window.addEventListener('beforeunload', (e) => { if (this.entries.length) e.preventDefault(); });
  },
  base() { return '/stock'; },
  focus() { focusShown(() => this.$refs.said); },
  lot() { return this.view.lots[this.now]; },
  isAt(i) { return this.now === i ? 'true' : 'false'; },
  placeWords() { return `${this.now + 1} of ${this.view.lots.length}`; },
  doneWords() { return `${this.view.lots.filter((l) => l.count).length} of ${this.view.lots.length} counted`; },
  restWords() { return this.live.stable ? 'It rests.' : 'Wait until it rests.'; },
  go(i) {
    this.now = i;
    this.wrong = '';
    this.focus();
  },
  next() {
    const n = this.view.lots.length;
    for (let k = 1; k <= n; k += 1) {
      const l = this.view.lots[(this.now + k) % n];
      if (!l.count && !this.entries.some((e) => e.id === l.id)) {
        this.now = (this.now + k) % n;
        return;
      }
    }
  },
  canTake() { return this.text === '' && this.live.mine; },
  takeLive() {
    if (!this.canTake() || !this.heard() || this.live.net_mg < 0) return false;
    if (!this.live.stable) this.takeAtRest();
    else this.enter(this.live.net, this.live.net_mg);
    return true;
  },
  count() { if (this.text !== '' || !this.takeLive()) this.enter(this.text); },
  enter(text, mg = 0) {
    this.entries.push({ id: this.lot().id, name: this.lot().name, text, mg, key: newKey() });
    this.text = '';
    this.wrong = '';
    this.next();
    this.focus();
    this.work();
  },
  async work() {
    if (this.working) return;
    this.working = true;
    while (this.entries.length) await this.sendFirst();
    this.working = false;
  },
  async sendFirst() {
    const [e] = this.entries;
    const body = { key: e.key, version: 0, unit: 0, component: 0, text: e.text, mg: e.mg, policy: '', window: this.window };
    try {
      this.shelve(await untilAnswered(() => send(`/stock/${e.id}/count`, body), (said) => { this.status = said; }));
      this.entries.shift();
      this.status = `Booked: ${e.text} ${this.view.unit} of ${e.name}`;
    } catch (p) {
      if (p.status === undefined) throw p;
      this.entries.shift();
      this.wrong = `${e.name}, ${e.text || 'nothing'}: ${wrongOf(p)}`;
      if (this.text === '') {
        this.now = this.view.lots.findIndex((l) => l.id === e.id);
        this.text = e.mg ? '' : e.text;
      }
    }
  },
  shelve(row) { this.view.lots = this.view.lots.map((l) => (l.id === row.id ? row : l)); },
  async back(l) {
    try {
      this.shelve(await send(`/stock/${l.id}/back`, { count: l.count }));
      this.status = `The count of ${l.name} is taken back.`;
      this.go(this.view.lots.findIndex((v) => v.id === l.id));
    } catch (p) {
      this.status = p.message;
    }
  },
  backLabel(l) { return `Take the count of ${l.name} back`; },
  key(e) {
    const inField = e.target === this.$refs.said;
    if (e.key.toLowerCase() === 't' && !e.ctrlKey && !e.metaKey && !e.altKey && !/^(SELECT|BUTTON)$/.test(e.target.tagName)) {
      e.preventDefault();
      this.tare();
    } else if (this.goesOn(e, inField)) {
      e.preventDefault();
      this.count();
    }
  },
}));
Alpine.start();
