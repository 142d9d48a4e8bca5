// The bench view: one component at a time. What is entered is taken at once
// with its place and a key of its own, and kept until the program has it on
// disk; only then it shows as weighed. What is typed meanwhile is for the next.
import Alpine from '../vendor/alpine.js';
import { get, send, read, newKey, untilAnswered, wrongOf } from './net.js';
import { focusShown } from './focus.js';
import { plating } from './plate.js';

const same = (a, b) => !!a && !!b && a.unit === b.unit && a.component === b.component;

Alpine.data('scale', () => ({
  ...plating,
  view: read('scale-data'),
  at: null,
  shown: 0,
  text: '',
  texts: {}, // typed for other places, by place
  said: null, // what is wrong, and with which entry
  status: '',
  choice: null, // the ways on for a reading that is off
  entries: [], // taken and not on disk yet, the first one first
  working: false,

  init() {
    this.follow();
    this.fromTable();
    this.$nextTick(() => this.focus()); // references are not there before
    this.listen();
    window.addEventListener('beforeunload', (e) => { if (this.entries.length) e.preventDefault(); });
  },
  base() { return `/weighouts/${this.view.id}`; },
  // follow goes to the first place that is open and not taken.
  follow() {
    const units = this.view.units.length;
    const fibres = this.view.units[0].cells.length;
    for (let i = 0; i < units * fibres; i += 1) {
      const unit = this.view.by_fibre ? i % units : Math.floor(i / fibres);
      const component = this.view.by_fibre ? Math.floor(i / units) : i % fibres;
      if (!this.view.units[unit].cells[component].done && !this.taken(unit, component)) {
        this.place(unit, component);
        return;
      }
    }
    this.stash();
    this.at = null;
    this.shown = this.view.units.length - 1;
  },
  taken(unit, component) { return this.entries.some((e) => same(e, { unit, component })); },
  stash() {
    if (this.at) this.texts[`${this.at.unit}-${this.at.component}`] = this.text;
  },
  place(unit, component) {
    this.stash();
    if (!this.here({ unit, component })) this.together = false;
    this.at = { unit, component };
    this.shown = unit;
    this.text = this.texts[`${unit}-${component}`] || '';
    this.tellAt();
    this.say();
  },
  // fromTable goes to the place that a link of the table names.
  fromTable() {
    const m = /^#(\d+)-(\d+)$/.exec(window.location.hash);
    const unit = m && this.view.units[m[1]];
    if (unit && unit.cells[m[2]] && !unit.cells[m[2]].done) this.place(Number(m[1]), Number(m[2]));
  },
  focus() { focusShown(() => this.$refs.said); },
  unit() { return this.view.units[this.shown]; },
  cell() { return this.at ? this.view.units[this.at.unit].cells[this.at.component] : this.view.units[0].cells[0]; },
  cellOf(e) { return this.view.units[e.unit].cells[e.component]; },
  // Weighing once for all units, to be divided.
  together: false,
  canTogether() { return !!this.at && !!this.cell().all && !this.choice; },
  setTogether(on) {
    this.together = on;
    this.tellAt();
    this.focus();
  },
  wantedNow() { return this.together && this.cell().all ? this.cell().all : this.cell().wanted; },
  wantedN() { return Math.max(this.together && this.cell().all ? this.cell().all_n : this.cell().wanted_n, 1e-9); },
  // Where a lot runs out: the ways on, asked for when she wants them.
  ways: null,
  async askWays() {
    const { component } = this.at;
    const v = await get(`/weighouts/${this.view.id}/runningout?component=${component}`).catch((p) => ({ said: p.message, ways: [] }));
    if (this.at && this.at.component === component) this.ways = { ...v, component };
  },
  waysShown() { return !!this.ways && !!this.at && this.ways.component === this.at.component && !!this.cell().short; },
  async goOn(way) {
    if (this.busy()) return;
    const { component } = this.ways;
    await this.correct(`/weighouts/${this.view.id}/goon`, { version: this.view.version, component, way: way.way, lot: way.lot }, `${way.name}: done.`);
    this.ways = null;
  },
  placeWords() { return `${this.at.component + 1} of ${this.unit().cells.length}`; },
  isAt(i) { return this.at && this.at.unit === this.shown && this.at.component === i ? 'true' : 'false'; },
  isUnit(i) { return i === this.shown ? 'true' : 'false'; },
  unitLabel(u, i) { return u.done ? `${i + 1} ✓` : String(i + 1); },
  go(i) {
    this.place(this.shown, i);
    this.focus();
  },
  turn(i) {
    const open = this.view.units[i].cells.findIndex((c, k) => !c.done && !this.taken(i, k));
    if (open >= 0) this.place(i, open);
    else this.shown = i;
  },

  reading() { return Number.parseFloat(this.text.replace(',', '.')) || 0; },
  // The gauge spans a little more than what is wanted; it only draws.
  gauge() {
    const part = this.heard() && this.text === '' ? this.live.part : this.reading() / this.wantedN();
    return String(Math.max(0, Math.min(740, 660 * part)));
  },
  tolerance() {
    const w = this.wantedN();
    const near = (v) => Math.min(738, 660 * v / w).toFixed(1);
    const s = this.cell().step_n;
    return `M${near(w - s)} 2V70M${near(w + s)} 2V70`;
  },
  gaugeLabel() { return `${this.text || (this.heard() && this.live.net) || 'nothing'} of ${this.wantedNow()} ${this.view.unit}`; },

  // Entering. A reading that is open for a choice is replaced by a new one of
  // the same place.
  weighed() { if (this.text !== '' || !this.takeLive()) this.enter(this.text); },
  exactly() { this.enter(this.wantedNow()); },
  enter(text, mg = 0) {
    if (!this.at) return;
    const entry = { ...this.at, text, mg, key: newKey(), policy: '', together: this.together, from: performance.now() };
    if (this.choice && same(this.choice.entry, entry)) {
      this.entries.shift();
      this.choice = null;
    }
    this.said = null;
    this.text = '';
    this.texts[`${entry.unit}-${entry.component}`] = '';
    this.entries.push(entry);
    this.follow();
    this.focus();
    this.work();
  },
  pending() { return this.entries.map((e) => `${e.text} ${this.view.unit} of ${this.cellOf(e).name}`).join(', '); },
  // work sends what was entered, one after the other; the first waits where a
  // choice is open.
  async work() {
    if (this.working) return;
    this.working = true;
    while (this.entries.length && !this.choice) await this.sendFirst();
    this.working = false;
  },
  async sendFirst() {
    const [e] = this.entries;
    const { key, unit, component, text, mg, policy } = e;
    const body = { version: this.view.version, key, unit, component, text, mg, policy, window: this.window };
    try {
      const url = `/weighouts/${this.view.id}/${e.together ? 'together' : 'weigh'}`;
      const answer = await untilAnswered(() => send(url, body), (said) => { this.status = said; });
      if (answer.ask) this.ask(e, answer.ask);
      else this.booked(e, answer.view, answer.divide);
    } catch (p) {
      if (p.status === undefined) throw p;
      if (p.status === 409) this.stale(e, p.body.current);
      else this.bringBack(e, wrongOf(p), (p.body.errors || []).some((x) => x.field === 'policy'));
    }
  },
  booked(e, view, divide = '') {
    this.entries = this.entries.filter((x) => x !== e);
    this.view = view;
    performance.measure('booked', { start: e.from, end: performance.now() });
    this.status = `Kept: ${e.text} ${view.unit} of ${this.cellOf(e).name}${divide ? `. ${divide}` : ''}`;
    if (!this.at || this.cell().done || (this.text === '' && !this.entries.length)) this.follow();
    this.focus();
  },
  // ask shows the ways on. She is brought back to the place only where nothing
  // was typed since.
  ask(e, ask) {
    this.choice = { ...ask, entry: e };
    this.status = '';
    if (this.text !== '' || this.entries.length > 1) return;
    this.place(e.unit, e.component);
    if (!e.mg) this.text = e.text;
    focusShown(() => this.$refs.choice && this.$refs.choice.querySelector('button'));
  },
  // stale: another window weighed. A place that is still open is tried again as
  // things stand now; one that was weighed there comes back to be looked at.
  stale(e, view) {
    this.view = view;
    if (this.cellOf(e).done) this.bringBack(e, 'Another window weighed this in the meantime. This is how it stands now; what you typed is still here.');
  },
  // bringBack gives an entry back to its place, with what is wrong; undecided: it can be booked as it is.
  bringBack(e, message, undecided = false) {
    this.entries = this.entries.filter((x) => x !== e);
    this.said = { entry: e, message, undecided };
    this.texts[`${e.unit}-${e.component}`] = e.mg ? '' : e.text;
    this.status = '';
    if (this.text === '' && !this.entries.length) {
      this.place(e.unit, e.component);
      if (e.together) this.setTogether(true);
      this.text = e.mg ? '' : e.text;
      this.focus();
    }
  },
  problem() {
    if (!this.said) return '';
    return this.at && same(this.said.entry, this.at) ? this.said.message : `${this.cellOf(this.said.entry).name}, ${this.said.entry.text}: ${this.said.message}`;
  },
  // bookAsIs books for all units what is not what they want.
  askedAsIs() { return !!this.said && this.said.entry.together && this.said.undecided; },
  bookAsIs() {
    const { entry } = this.said;
    this.said = null;
    this.text = '';
    this.texts[`${entry.unit}-${entry.component}`] = '';
    this.entries.push({ ...entry, key: newKey(), policy: 'as-is' });
    this.work();
  },
  elsewhere() { return this.said && !(this.at && same(this.said.entry, this.at)); },
  goThere() {
    this.place(this.said.entry.unit, this.said.entry.component);
    this.focus();
  },
  choiceName() { return this.choice ? `${this.cellOf(this.choice.entry).name}, ${this.choice.entry.text} ${this.view.unit}:` : ''; },
  offWords() {
    if (!this.choice) return '';
    return this.choice.verdict === 'over' ? 'more than wanted. What shall the others do?' : 'less than wanted. Add more to the bowl, or book it:';
  },
  choose(policy) {
    if (!this.choice) return;
    const { entry } = this.choice;
    this.choice = null;
    entry.policy = policy;
    if (same(this.at, entry)) {
      this.text = '';
      this.follow();
    }
    this.focus();
    this.work();
  },
  putBack() {
    if (!this.choice) return;
    const { entry } = this.choice;
    this.choice = null;
    this.entries = this.entries.filter((x) => x !== entry);
    if (!same(this.at, entry)) this.place(entry.unit, entry.component);
    if (!entry.mg) this.text = entry.text;
    focusShown(() => this.$refs.said);
    this.$nextTick(() => this.$refs.said && this.$refs.said.select());
    this.work();
  },
  busy() { return this.entries.length > 0; },
  allDone() { return !this.at && !this.choice; },
  async undo() {
    if (this.busy() || !this.view.undo) return;
    await this.correct(`/weighouts/${this.view.id}/undo`, { version: this.view.version }, 'The last weighing is undone; its fibre is back on the shelf.');
  },
  async correct(url, body, status) {
    try {
      this.view = await send(url, body);
      this.status = status;
      if (!this.at || this.text === '') this.follow();
    } catch (p) {
      if (p.status === 409) this.view = p.body.current;
      this.status = p.message;
    }
    this.focus();
  },
  // takeBack undoes the weighing of one place, wherever it lies in the session.
  takeBack(i) {
    if (this.busy()) return;
    const c = this.view.units[this.shown].cells[i];
    const place = { unit: this.shown, component: i };
    this.correct(`/weighouts/${this.view.id}/undo`, { version: this.view.version, ...place }, `${c.weighed} ${this.view.unit} of ${c.name} are back on the shelf. Weigh it again.`)
      .then(() => {
        if (!this.view.units[place.unit].cells[i].done && this.text === '') this.place(place.unit, i);
      });
  },
  takeBackLabel(c) { return `Weigh ${c.name} again`; },
  // Digits are always for a reading, never for a choice. Letters choose, also from
  // the field while the reading that is asked about stands in it: a fast hand is
  // there before the focus is on the choice.
  key(e) {
    const inField = e.target === this.$refs.said;
    const typing = inField && this.choice && this.text !== '' && this.text !== this.choice.entry.text;
    if (e.altKey && e.key === 'Enter') {
      e.preventDefault();
      this.exactly();
    } else if (!this.choice && e.key.toLowerCase() === 't' && !e.ctrlKey && !e.metaKey && !e.altKey && !/^(SELECT|BUTTON)$/.test(e.target.tagName)) {
      e.preventDefault();
      this.tare();
    } else if (!this.choice && this.goesOn(e, inField)) {
      e.preventDefault();
      this.weighed();
    } else if (this.choice && e.key === 'Escape') {
      this.putBack();
    } else if (this.choice && !typing && !e.ctrlKey && !e.metaKey && /^[a-z]$/i.test(e.key)) {
      const o = this.choice.options.find((v) => v.letter.toLowerCase() === e.key.toLowerCase());
      if (o) {
        e.preventDefault();
        this.choose(o.policy);
      }
    } else if (this.choice && !inField && /^[\d.,]$/.test(e.key) && this.$refs.said) {
      this.$refs.said.focus();
      this.$refs.said.select();
    } else if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'z' && this.text === '') {
      e.preventDefault();
      this.undo();
    }
  },
}));
Alpine.start();
