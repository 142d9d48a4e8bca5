// A photo: the page only points; balance, mean and palette come from the
// program.
import Alpine from '../vendor/alpine.js';
import { inTurn, send, read, newKey } from './net.js';
import { lotSearch } from './lots.js';
import { paintedTop } from './phototop.js';
import './field.js';
import './said.js';

const clamp = (v, lo, hi) => Math.min(Math.max(v, lo), hi);

Alpine.data('photo', () => ({
  ...lotSearch,
  ...paintedTop,
  lotsFound: read('lots-data'),
  view: read('photo-data'),
  mode: 'pick',
  reflects: '18',
  spot: { x: 0.5, y: 0.5, radius: 0.02 },
  from: null,
  reading: null,
  picks: [],
  lot: '',
  said: '',
  href: '',
  given: 0,
  faults: {},
  status: '',
  colours: '6',
  total: '',
  palette: null,
  busy: false,
  turn: 0,
  ends: [], // of a known length
  corners: [], // of the batt
  known: '',
  look: null,
  lookKept: '',

  init() { this.total = this.$el.dataset.total; },
  path(what) { return `/photos/${this.view.id}/${what}`; },
  async ask(what, body) {
    this.faults = {};
    try {
      const answer = await inTurn(this.path(what), body, (said) => { this.faults = { all: said }; });
      this.faults = {};
      return answer;
    } catch (p) {
      for (const e of p.body.errors || []) this.faults[e.field] = e.message;
      if (!Object.keys(this.faults).length) this.faults.all = p.message;
      if (p.status === 409) this.faults.all = 'The photo was changed in another window. It is shown as it is there now; do it again.';
      if (p.status === 409) this.view = p.body.current;
      return null;
    }
  },
  chosenLot() { return this.lot; },
  fault(k) { return this.faults[k] || ''; },
  anyFault() { return this.fault('all') || this.fault('area') || this.fault('radius'); },

  // Pointing. A click takes a spot of the radius at hand, a drag makes one.
  place(e) {
    const box = this.$refs.picture.getBoundingClientRect();
    return { x: clamp((e.clientX - box.left) / box.width, 0, 1), y: clamp((e.clientY - box.top) / box.height, 0, 1), long: Math.max(box.width, box.height), box };
  },
  down(e) {
    e.preventDefault();
    this.$refs.picture.setPointerCapture(e.pointerId);
    this.$refs.picture.focus();
    const p = this.place(e);
    this.from = p;
    this.spot = { ...this.spot, x: p.x, y: p.y };
  },
  moveTo(e) {
    if (!this.from) return;
    const p = this.place(e);
    const r = Math.hypot((p.x - this.from.x) * p.box.width, (p.y - this.from.y) * p.box.height) / p.long;
    if (r > 0.006) this.spot = { ...this.spot, radius: clamp(r, 0.004, 0.3) };
  },
  up() {
    if (!this.from) return;
    this.from = null;
    this.use();
  },
  cancel() { this.from = null; },
  keys(e) {
    const step = e.shiftKey ? 0.05 : 0.01;
    const s = { ...this.spot };
    if (e.key === 'ArrowLeft') s.x -= step;
    else if (e.key === 'ArrowRight') s.x += step;
    else if (e.key === 'ArrowUp') s.y -= step;
    else if (e.key === 'ArrowDown') s.y += step;
    else if (e.key === '+' || e.key === '=') s.radius += 0.005;
    else if (e.key === '-') s.radius -= 0.005;
    else if (e.key === 'Enter' || e.key === ' ') {
      e.preventDefault();
      this.use();
      return;
    } else return;
    e.preventDefault();
    this.spot = { x: clamp(s.x, 0, 1), y: clamp(s.y, 0, 1), radius: clamp(s.radius, 0.004, 0.3) };
  },
  use() {
    const here = [this.spot.x, this.spot.y];
    if (this.mode === 'card') this.card(this.spot);
    else if (this.mode === 'length') this.ends = this.ends.length === 1 ? [...this.ends, here] : [here];
    else if (this.mode === 'batt') this.corners = this.corners.length === 1 ? [...this.corners, here] : [here];
    else this.pick();
  },
  async pick() {
    const turn = ++this.turn;
    const r = await this.ask('read', { ...this.spot });
    if (!r || turn !== this.turn) return;
    this.reading = { ...r, spot: { ...this.spot } };
    this.said = '';
    this.given = 0;
    this.picks = [this.reading, ...this.picks.filter((p) => p.hex !== r.hex)].slice(0, 8);
  },
  again(p) {
    this.reading = p;
    this.spot = { ...p.spot };
  },
  async card(spot) {
    const v = await this.ask('card', { version: this.view.version, spot, text: this.reflects });
    if (!v) return;
    this.view = v;
    this.reading = null;
    this.picks = [];
    this.status = v.said;
    if (spot) this.mode = 'pick';
    if (this.palette) this.findPalette();
  },
  noCard() { this.card(null); },
  rename(e) { e.detail.sent(this.renamed(e.detail.text)); },
  async renamed(name) {
    const v = await this.ask('name', { version: this.view.version, name });
    if (!v) return false;
    this.view = v;
    this.status = 'Saved';
    return true;
  },
  async give() {
    const r = await this.ask('tolot', { spot: this.reading.spot, lot: Number(this.lot) });
    if (!r) return;
    this.said = r.said;
    this.href = r.href;
    this.given = r.lot;
  },
  async takeBack() {
    const r = await send(`/lots/${this.given}/colours/back`, {}).catch((p) => ({ said: p.message }));
    this.said = r.said;
    this.given = 0;
  },
  async findPalette() {
    this.busy = true;
    const r = await this.ask('palette', { colours: Number(this.colours), text: this.total });
    this.busy = false;
    if (r) this.palette = r.colours;
  },

  // The look of a batt: two ends of a length, two corners of the batt.
  async readLook(keep) {
    const flat = (list) => (list.length === 2 ? list.flat() : [0, 0, 0, 0]);
    const { run = 0, unit = 0, pass = 0 } = this.$refs.of?.dataset || {};
    const key = newKey();
    this.busy = true;
    this.lookKept = '';
    const r = await this.ask('look', {
      batt: this.corners.length === 2 ? this.corners.flat() : [0.02, 0.02, 0.98, 0.98], length: flat(this.ends), length_mm: 0, text: this.known,
      run: Number(run), unit: Number(unit), pass: Number(pass), keep, key,
    });
    this.busy = false;
    if (!r) return;
    if (keep) this.lookKept = r.said;
    else this.look = r;
  },
  lookFault() { return this.fault('length_mm') || this.fault('length') || this.fault('batt') || this.fault('top'); },
  lookFill() { return this.look ? this.fill(this.look.hex) : {}; },
  lookSaid() { return this.look ? this.look.said : ''; },
  lookSure() { return !!this.look && this.look.sure; },
  lookFacts() { return this.look ? this.look.facts : []; },
  at(p) { return `${p[0] * this.view.width} ${p[1] * this.view.height}`; },
  hasLength() { return this.ends.length > 0; },
  hasBatt() { return this.corners.length > 0; },
  lengthPath() { return this.ends.length ? `M${this.at(this.ends[0])}L${this.at(this.ends[1] || [this.spot.x, this.spot.y])}` : 'M0 0'; },
  battPath() {
    if (!this.corners.length) return 'M0 0';
    const [a, b] = [this.corners[0], this.corners[1] || [this.spot.x, this.spot.y]];
    return `M${this.at(a)}L${this.at([b[0], a[1]])}L${this.at(b)}L${this.at([a[0], b[1]])}Z`;
  },

  // The picture is shown as it is read: balanced in linear light.
  gains() {
    const [r, g, b] = this.view.card ? this.view.card.gains : [1, 1, 1];
    return `${r} 0 0 0 0 0 ${g} 0 0 0 0 0 ${b} 0 0 0 0 0 1 0`;
  },

  // Shapes.
  marks() {
    const { width, height } = this.view;
    const long = Math.max(width, height);
    return { cx: this.spot.x * width, cy: this.spot.y * height, r: this.spot.radius * long };
  },
  cx() { return this.marks().cx; },
  cy() { return this.marks().cy; },
  r() { return this.marks().r; },
  cardX() { return this.view.card ? this.view.card.x * this.view.width : -99; },
  cardY() { return this.view.card ? this.view.card.y * this.view.height : -99; },
  cardR() { return this.view.card ? this.view.card.radius * Math.max(this.view.width, this.view.height) : 0; },
  fill(hex) { return { backgroundColor: hex }; },
  readingFill() { return this.reading ? this.fill(this.reading.hex) : {}; },
  readingName() { return this.reading ? this.reading.name : ''; },
  readingHex() { return this.reading ? this.reading.hex : ''; },
  readingSaid() { return this.reading ? this.reading.said : ''; },
  list() { return this.palette || []; },
  pair(p) { return { background: `linear-gradient(90deg, ${p.hex} 50%, ${p.then ? p.then.hex : p.hex} 50%)` }; },
  then(p) { return p.then ? `${p.then.delta_e} · ${p.then.words}` : 'nothing on the shelf comes near'; },
  names(p) { return p.then ? p.then.rows.map((r) => `${r.name} ${r.percent} %`).join(', ') : ''; },
  where() { return `Spot at ${Math.round(this.spot.x * 100)} % across, ${Math.round(this.spot.y * 100)} % down, radius ${(this.spot.radius * 100).toFixed(1)} %`; },
  carding() { return this.mode === 'card'; },
}));
Alpine.start();
