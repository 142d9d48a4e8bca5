// A batt foretold: what each pass does to it, and what another way to feed it again
// would do. Numbers and pictures come from the program.
import Alpine from '../vendor/alpine.js';
import './said.js';
import { get, pause, read, send } from './net.js';
import { besides, fitting, lines, parting } from './cardmore.js';
import './second.js';

const bands = [[0, 144, 2, 114], [2, 114, 6, 72], [6, 72, 10, 42], [10, 42, 30, 10]];

// height is where a patch spread lies in the plot: each look has a band of its own.
function height(spread) {
  for (const [lo, from, hi, to] of bands) {
    if (spread <= hi) return from + ((to - from) * (spread - lo)) / (hi - lo);
  }
  return 10;
}

Alpine.data('card', () => ({
  ...parting,
  ...besides,
  ...fitting,
  view: read('card-data'),
  chosen: 0,
  side: 'face',
  fine: false,
  loupe: null,
  held: false, // by the keys, not the pointer
  needs: null,
  needsSaid: '',
  part: 0,
  waiting: null,
  problem: '',
  status: '',
  turns: 0,
  planning: Promise.resolve(),
  writes: 0, // on their way into the lay-up

  init() {
    this.id = this.$el.dataset.id;
    this.chosen = Math.min(this.view.planned, this.view.stages.length);
    this.startNoted();
    this.sharpen();
    this.ask();
    this.askParts();
    if (this.$el.dataset.what) this.setBeside(`${this.id}  ${this.$el.dataset.what}`);
    window.addEventListener('beforeunload', (e) => { if (this.writes) e.preventDefault(); });
    document.addEventListener('click', (e) => this.goAfter(e), true);
  },
  // goAfter has a link wait for what is on its way into the lay-up.
  async goAfter(e) {
    const a = e.target.closest && e.target.closest('a[href]');
    if (!this.writes || !a || a.target || e.button !== 0 || e.ctrlKey || e.metaKey || e.shiftKey) return;
    e.preventDefault();
    await this.planning;
    window.location.href = a.href;
  },
  stage() { return this.view.stages[Math.min(this.chosen, this.view.stages.length) - 1]; },
  saidAfter() { return this.stage().said.slice(this.stage().look.length + 2); },
  isChosen(s) { return s.pass === this.chosen; },
  isPlanned(s) { return s.pass === this.view.planned; },
  choose(s) {
    this.chosen = s.pass;
    this.askParts();
  },
  altOf(s) { return `${s.name}: ${s.said}`; },

  // Pictures: coarse while something changes, fine once it rests.
  address(s, more) { return `${s.picture}${this.fine ? '' : '&coarse=1'}&${new URLSearchParams(more)}`; },
  small(s) { return this.address(s, { side: 'face', w: 300, h: 110 }); },
  highPx() { return this.side === 'section' ? 200 : Math.round(Math.min(560, (960 * (this.view.wide_mm + 28)) / (this.view.long_mm + 28))); },
  large() {
    const part = this.fine ? 1 : 0.5;
    return this.address(this.stage(), { side: this.side, w: 960 * part, h: Math.round(this.highPx() * part) });
  },
  picName() {
    return `${this.stage().name}, ${this.side}.png`;
  },
  async sharpen() {
    this.turns += 1;
    const turn = this.turns;
    this.fine = false;
    await pause(250);
    if (turn !== this.turns) return;
    const v = await get(this.json('')).catch(() => null);
    if (!v || turn !== this.turns) return;
    this.view = v;
    this.fine = true;
  },
  json(more) { return `/layups/${this.id}/card.json?strips=${this.view.strips}&refeed=${this.view.refeed}${more}`; },

  sides() { return [{ key: 'face', name: 'Face' }, { key: 'back', name: 'Back' }, { key: 'section', name: 'Section' }]; },
  turn(side) {
    this.side = side;
    this.loupe = null;
  },
  sideSaid() {
    if (this.side === 'section') return `Cut across in the middle, three times as high as it is.`;
    return `${this.view.size}; the fibre runs from left to right. Move over it for the loupe, or press it and use the arrows.`;
  },

  // The loupe shows 10 pixels to a millimetre of what lies under the pointer.
  scale() { return Math.min(960 / (this.view.long_mm + 28), this.highPx() / (this.view.wide_mm + 28)); },
  point(e) {
    if (this.side === 'section' || e.pointerType === 'touch') return;
    const box = this.$refs.batt.getBoundingClientRect();
    this.held = false;
    this.lookAt((e.clientX - box.left) / box.width, (e.clientY - box.top) / box.height);
  },
  lookAt(x, y) {
    this.loupe = { x: Math.min(Math.max(x, 0), 1), y: Math.min(Math.max(y, 0), 1) };
    if (this.drawing) {
      this.again = true;
      return;
    }
    this.drawing = true;
    this.drawLoupe();
  },
  async drawLoupe() {
    const { x, y } = this.loupe;
    const k = this.scale();
    const u = this.view.long_mm / 2 + (x - 0.5) * (960 / k) - 12;
    const v = this.view.wide_mm / 2 + (y - 0.5) * (this.highPx() / k) - 9;
    const img = new Image();
    img.src = this.address(this.stage(), { side: this.side, w: 240, h: 180, mm: 10, u: u.toFixed(1), v: v.toFixed(1) });
    await img.decode().catch(() => {});
    this.drawing = false;
    if (this.loupe) this.loupe = { ...this.loupe, src: img.src };
    if (this.again && this.loupe) {
      this.again = false;
      this.drawing = true;
      this.drawLoupe();
    }
  },
  leave() { if (!this.held) this.loupe = null; },
  magnify() {
    this.held = !this.loupe;
    if (this.loupe) this.loupe = null;
    else this.lookAt(0.5, 0.5);
  },
  loupeStyle() {
    if (!this.loupe) return {};
    const { x, y, src } = this.loupe;
    return { left: `${x * 100}%`, top: `${y * 100}%`, backgroundImage: src ? `url("${src}")` : 'none' };
  },
  keys(e) {
    if (!this.loupe || !this.held || /^(INPUT|SELECT|TEXTAREA)$/.test(e.target.tagName)) return;
    const by = { ArrowLeft: [-0.02, 0], ArrowRight: [0.02, 0], ArrowUp: [0, -0.05], ArrowDown: [0, 0.05] }[e.key];
    if (e.key === 'Escape') this.loupe = null;
    if (!by) return;
    e.preventDefault();
    this.lookAt(this.loupe.x + by[0], this.loupe.y + by[1]);
  },

  // Dividing: the answer is coarse at once, and sharp when it rests.
  async divide(strips, refeed) {
    this.view.strips = strips || this.view.strips;
    this.view.refeed = refeed || this.view.refeed;
    this.turns += 1;
    const turn = this.turns;
    this.divideSo();
    this.fine = false;
    this.stopNeeds();
    const from = performance.now();
    try {
      const v = await get(this.json('&coarse=1&quick=1'));
      if (turn !== this.turns) return;
      this.view = { ...v, ways: this.view.ways };
      this.problem = '';
      this.$nextTick(() => performance.measure('foretold', { start: from, end: performance.now() }));
      this.sharpen();
      this.ask();
      this.askParts();
      this.lookBeside();
    } catch (p) {
      if (turn === this.turns) this.problem = p.message;
    }
  },
  strip(i, x, n) {
    const w = 40 / n;
    return `M${x + i * w} 4h${w}v40h${-w}z`;
  },
  before() { return Array.from({ length: this.view.strips }, (_, i) => this.strip(i, 8, this.view.strips)).join(''); },
  after(w) {
    const n = this.view.strips;
    if (w.key === 'own-place') return Array.from({ length: n }, (_, i) => this.strip(i, 82, n)).join('');
    const rows = Array.from({ length: n }, (_, i) => `M82 ${4 + (i * 40) / n}h40v${40 / n}h-40z`);
    if (w.key === 'pieces') rows.push(...Array.from({ length: n }, (_, i) => `M${92 + ((i * 17) % 26)} ${4 + (i * 40) / n}v${40 / n}`));
    return rows.join('');
  },

  // The plot.
  across(pass) { return 30 + (250 * (pass - 0.5)) / this.view.stages.length; },
  places() { return this.view.stages.map((s) => [this.across(s.pass), height(s.spread)]); },
  line() { return `M${this.places().map((p) => p.join(' ')).join('L')}`; },
  dots() { return this.places().map(([x, y]) => `M${x - 3} ${y}a3 3 0 1 0 6 0a3 3 0 1 0 -6 0`).join(''); },
  now() {
    const [x, y] = this.places()[Math.min(this.chosen, this.view.stages.length) - 1];
    return `M${x - 6} ${y}a6 6 0 1 0 12 0a6 6 0 1 0 -12 0`;
  },
  plotLabel() { return this.view.stages.map((s) => `${s.name}: patches differ by ${s.spread.toFixed(1)}, ${s.look}`).join('; '); },

  // How many passes to a look.
  async ask() {
    if (!this.view.again) return;
    this.stopNeeds();
    const stop = new AbortController();
    this.waiting = stop;
    this.needs = null;
    this.part = 0;
    this.needsSaid = `How many ${this.view.round === 'pass' ? 'passes' : 'rounds'} to each look, ${this.view.can_divide ? 'on carders' : 'in hands'} as they differ`;
    try {
      const res = await fetch(`/layups/${this.id}/needs?strips=${this.view.strips}&refeed=${this.view.refeed}`, { signal: stop.signal });
      await lines(res, stop.signal, (v) => this.hear(v));
    } catch {
      if (!stop.signal.aborted) this.needsSaid = 'The forecast was cut off. Load the page again.';
    }
    if (this.waiting === stop) this.waiting = null;
  },
  hear(v) {
    if (v.needs) this.needs = v.needs;
    else if (v.problem) this.needsSaid = v.problem.detail;
    else if (v.said) this.needsSaid = v.said;
    else this.part = v.part;
  },
  stopNeeds() {
    if (!this.waiting) return;
    this.waiting.abort();
    this.waiting = null;
    this.needsSaid = 'Stopped.';
    this.part = 0;
  },
  needList() { return this.needs || []; },
  passText(n) {
    if (n.passes === 1) return `1 ${this.view.round}`;
    return `${n.passes} ${this.view.round === 'pass' ? 'passes' : 'rounds'}`;
  },
  isPlan(n) { return !n.never && n.passes === this.view.planned; },
  otherStrips() {
    const wanted = this.view.wanted_strips;
    if (!wanted || wanted === this.view.strips) return '';
    return `The lay-up divides it into ${wanted}; the forecast follows ${this.view.strips}, the nearest that it can.`;
  },
  plannable() { return !this.view.can_divide || this.view.refeed !== 'pieces'; },
  canPlan(n) { return !n.never && n.passes !== this.view.planned && this.plannable(); },
  planLabel(n) { return `Plan ${this.passText(n)}`; },
  // plan writes passes into the lay-up, whose weigh-out follows.
  async plan(passes) {
    if (!await this.write([{ verb: 'passes', times: passes }], `The lay-up plans ${this.passText({ passes })} now.`)) return;
    const { turns } = this;
    const view = await get(this.json('&coarse=1')).catch(() => null);
    if (!view || turns !== this.turns) return; // divided otherwise since
    this.view = view;
    this.sharpen();
  },
  // divideSo writes how it is divided into the lay-up.
  divideSo() {
    if (!this.view.can_divide || !this.plannable()) return;
    this.write([{ verb: 'strips', times: this.view.strips }, { verb: 'refeed', text: this.view.refeed }], 'The lay-up divides it like this now.');
  },
  // write does changes to the lay-up as it stands then, one set after the other; another window may be faster, so that it is
  // tried again.
  write(changes, said) {
    this.writes += 1;
    const done = this.planning.then(() => this.writeNow(changes, said, 3)).finally(() => { this.writes -= 1; });
    this.planning = done;
    return done;
  },
  async writeNow(changes, said, tries) {
    try {
      let { version, input } = await get(`/layups/${this.id}/now`);
      for (const change of changes) {
        const v = await send(`/layups/${this.id}/change`, { input, change, version, keep: true });
        ({ version, input } = v);
      }
      this.status = said;
      this.problem = '';
      return true;
    } catch (p) {
      if (p.status === 409 && tries > 1) return this.writeNow(changes, said, tries - 1);
      this.problem = p.message;
      return false;
    }
  },
}));

Alpine.start();
