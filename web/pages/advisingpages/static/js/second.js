// The second look: what a practised eye would say, why, and the mend. A page that edits what the
// mend changes takes it itself; elsewhere it is kept, and the page shown anew.
import Alpine from '../vendor/alpine.js';
import './said.js';
import { get, pause, send, wrongOf } from './net.js';
import { settled } from './edit.js';
import { keepFocus, lifted } from './focus.js';

const nothing = { said: 'It could not be looked over just now.', open: [], more: [], asks: [], there: [], told: [], quiet: [] };

// undoFrom takes what a mend left in the address before the page was shown anew.
function undoFrom() {
  const at = new URL(window.location.href);
  const text = at.searchParams.get('undo');
  if (!text) return null;
  at.searchParams.delete('undo');
  window.history.replaceState(null, '', at);
  try { return JSON.parse(text); } catch { return null; }
}

export const seconding = {
  second: null,
  secondTurn: 0,
  secondPress: Promise.resolve(),
  secondOld: false, // it is of what was there before the last change
  secondKind: '', // what the page changes itself: blend, lay-up
  secondUndo: undoFrom(),
  secondWrong: '',
  secondWide: window.innerWidth >= 700 || window.location.hash === '#secondlook', // else it folds to its count
  askWrong: {},
  secondNext: null, // what waits until a field of the panel is left
  secondTyped: {}, // what was typed there, by field

  openSecond() { this.secondWide = true; },
  secondPanel() { return document.querySelector('.second'); },
  lookSoon() {
    this.secondTurn += 1; // what is on its way is of what was there before
    this.secondOld = true;
    clearTimeout(this.secondTimer);
    this.secondTimer = setTimeout(() => this.lookOver(), 300);
  },
  async lookOver() {
    this.secondTurn += 1;
    const turn = this.secondTurn;
    await this.queue;
    const v = await get(`/second.json?${this.secondPanel().dataset.where}`).catch(() => nothing);
    await lifted();
    if (turn === this.secondTurn) this.putSecond(v);
  },
  // putSecond shows a look. One does not take a field away in which somebody types: it waits until that is left.
  putSecond(v, now = false) {
    const el = document.activeElement;
    if (!now && this.second && el && el.matches('.second input')) {
      if (!this.secondNext) el.addEventListener('blur', () => this.putSecond(this.secondNext, true), { once: true });
      this.secondNext = v;
      return;
    }
    const back = keepFocus();
    this.second = v;
    this.secondNext = null;
    this.secondOld = false;
    this.$nextTick(back);
  },
  types(key, e) { this.secondTyped[key] = e.target.value; },
  typedIn(key, el) { el.value = this.secondTyped[key] || ''; },
  seen(part) { return this.second ? this.second[part] : []; },
  secondSaid() { return this.second ? this.second.said : 'Looking it over.'; },
  findingClass(f) { return `finding of-${f.severity}`; },
  swatch(hex) { return { backgroundColor: hex }; },
  waysHere(f) { return this.secondKind === 'lay-up' || this.secondKind === 'gradient' ? f.ways : []; },
  pressed(f) { return f.mends && !this.waysHere(f).length; },
  whatMore(f) { return f.what_if && !window.location.pathname.endsWith('/card') ? 'What if I did?' : ''; },

  // mendIt does what a finding offers. One that is pressed while it is looked over anew waits for that, and is done if it is still found.
  mendIt(old) {
    this.secondPress = this.secondPress.then(() => this.mendFound(old)).catch(() => {}); // one after the other
    return this.secondPress;
  },
  async mendFound(old) {
    await this.queue;
    while (this.secondOld) await pause(40);
    const f = [...this.second.open, ...this.second.more].find((v) => v.id === old.id);
    if (!f) return;
    if (f.mends === this.secondKind) {
      await this.mendHere(f);
      return;
    }
    if (this.conflict) { // what was changed here is not kept
      this.secondWrong = 'Another window was first. Choose above which of the two is kept, then press it again.';
      return;
    }
    if (!(await settled())) return;
    const where = Object.fromEntries(new URLSearchParams(this.secondPanel().dataset.where));
    const body = { at: where.at, blend: f.blend, layup: f.layup, run: Number(where.run || 0), rule: f.rule, component: f.component, layer: f.layer };
    await this.pressing('/second/mend', body, (done) => this.afterMend(done));
  },
  afterMend(done) {
    if (done.kind === 'told') {
      this.secondUndo = done;
      return this.lookOver();
    }
    const at = new URL(window.location.href);
    at.searchParams.set('undo', JSON.stringify(done));
    at.hash = 'secondlook';
    window.location.assign(at); // another address, as what to undo is in it
    return new Promise(() => {}); // nothing is done here any more
  },
  async undoSecond() {
    if (!(await settled())) return;
    const { kind } = this.secondUndo;
    await this.pressing('/second/undo', this.secondUndo, () => {
      this.secondUndo = null;
      if (kind === 'told') this.lookOver();
      else window.location.reload();
    });
  },
  undoWords() {
    if (!this.secondUndo) return '';
    return { blend: 'The blend is mended.', both: 'The blend is mended, and its lay-up follows.', 'lay-up': 'The lay-up is mended.', weighout: 'A sample is ready to be weighed.', told: 'Noted.' }[this.secondUndo.kind];
  },
  sampleHref() { return this.secondUndo && this.secondUndo.kind === 'weighout' ? `/weighouts/${this.secondUndo.id}` : ''; },

  // What is told to a question; typed figures wait in their field until they are right.
  answerLabel(q, a) { return `${q.ask} ${a}`; },
  answers(q, n) { return this.tell(q, { answer: n }); },
  tellTyped(q, e) {
    const { value } = e.target.elements.figure;
    if (value.trim()) this.tell(q, { typed: value });
  },
  forgets(t) { return this.tell(t, { name: t.name }); },
  async tell(q, more) {
    const { [q.id]: gone, ...rest } = this.askWrong;
    this.askWrong = rest;
    try {
      this.secondUndo = await send('/second/tell', { of: q.of, about: q.about, name: '', key: q.key, ...more });
      delete this.secondTyped[q.id];
      if (document.activeElement.matches('.second input')) document.activeElement.blur(); // it is answered, and goes
      await this.lookOver();
    } catch (p) {
      this.askWrong = { ...this.askWrong, [q.id]: wrongOf(p) };
    }
  },
  askFault(q) { return this.askWrong[q.id] || ''; },

  async pressing(url, body, after) {
    this.secondWrong = '';
    try {
      await after(await send(url, body));
    } catch (p) {
      this.secondWrong = wrongOf(p);
      await this.lookOver();
    }
  },
};

// A panel of its own, beside a page that does not change what the mends change.
Alpine.data('second', () => ({
  ...seconding,
  init() { this.lookOver(); },
}));
