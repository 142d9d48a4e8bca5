// The live reading at the scale: it listens, shows, takes a weighing when it rests, and
// says which window weighs. Every number comes from the program.
import { get, send, newKey } from './net.js';

const stored = (name, otherwise) => {
  const v = localStorage.getItem(`scale-${name}`);
  return v === null ? otherwise : v === 'yes';
};

function windowId() {
  let id = sessionStorage.getItem('window');
  if (!id) {
    id = newKey();
    sessionStorage.setItem('window', id);
  }
  return id;
}

const deviceName = () => {
  if (window.matchMedia('(max-width: 520px)').matches) return 'The phone';
  return window.matchMedia('(max-width: 960px)').matches ? 'The tablet' : 'The computer';
};

const offMg = 500; // less than this a scale swings by itself

const off = { heard: false, mine: true, scale_id: 0, phase: '', problem: '', changes: 0, part: 0, lo: 0, hi: 0, mode: 'bowl', auto: true, note: '', said: '', at: null };

export const plating = {
  live: off,
  window: '',
  auto: stored('auto', true),
  sound: stored('sound', false),
  aloud: stored('aloud', false),
  asked: null, // to be taken as soon as it rests: how much lay there then
  fresh: false, // nothing was heard yet since it listens
  lost: false, // the connection to the program
  spoken: '',
  chosen: {}, // by what is chosen: what, and which change it was; 0 until that is answered

  listen() {
    this.window = windowId();
    const name = encodeURIComponent(deviceName());
    const open = () => {
      this.fresh = true;
      this.stream = new EventSource(`${this.base()}/live?window=${this.window}&name=${name}`);
      this.stream.onmessage = (e) => this.hear(JSON.parse(e.data));
      this.stream.onerror = () => {
        this.lost = true;
        if (this.stream.readyState === EventSource.CLOSED) setTimeout(open, 1500);
      };
    };
    open();
    window.addEventListener('pagehide', () => this.stream.close());
    window.addEventListener('pageshow', (e) => { if (e.persisted) open(); });
  },
  hear(live) {
    const was = this.live;
    this.lost = false;
    this.live = live;
    this.keepChosen();
    if (this.fresh && live.free) send(`${this.base()}/plate`, { window: this.window, verb: 'first' }).catch(() => {}); // another was faster
    this.fresh = false;
    if (live.mine && this.at && !this.telling) {
      if (this.agreed()) this.toldFor = '';
      else this.tellAt();
    }
    if (live.version > this.view.version && !this.entries.length && !this.choice) this.refresh();
    if (!live.mine && live.at && !this.here(live.at)) this.place(live.at.unit, live.at.component);
    if (live.phase !== was.phase) this.signal(live.phase);
    this.restsNow();
    if (live.mine && this.auto && live.phase === 'ready' && this.canTake()) this.takeLive();
  },
  // refresh brings what another window weighed.
  async refresh() {
    if (this.refreshing) return;
    this.refreshing = true;
    const view = await get(`/weighouts/${this.view.id}/scale.json`).catch(() => null);
    this.refreshing = false;
    if (!view || view.version <= this.view.version) return;
    this.view = view;
    if (!this.at || this.cell().done) this.follow();
  },
  here(at) { return !!this.at && !!at && at.unit === this.at.unit && at.component === this.at.component; },
  hears() { return this.live.scale_id > 0; },
  heard() { return this.live.heard && !this.lost; },
  trouble() {
    if (this.lost) return 'No connection to the program; the reading stands still.';
    return this.live.problem;
  },
  canTake() { return !!this.at && !this.choice && this.text === '' && !this.busy() && this.agreed(); },
  // takeLive books what the scale says, where it rests and something lies there.
  takeLive() {
    if (!this.canTake() || !this.heard() || this.live.phase === 'clear' || this.live.net_mg <= 0) return false;
    if (!this.live.stable) {
      this.takeAtRest();
      return true;
    }
    this.enter(this.live.net, this.live.net_mg);
    return true;
  },
  // takeAtRest remembers that it was to be taken while it moved still: a hand is faster than a
  // scale. It is taken once it rests, however long that takes on a slow machine, but not where
  // something was taken off since: then it is said.
  takeAtRest() {
    this.asked = { mg: this.live.net_mg };
    this.status = 'It is still moving; it is taken as soon as it rests.';
  },
  restsNow() {
    if (!this.asked || !this.live.stable) return;
    const { mg } = this.asked;
    this.asked = null;
    const less = this.live.net_mg < mg - offMg;
    this.status = less ? 'Something was taken off before it rested: nothing is taken. Press again.' : '';
    if (!less) this.takeLive();
  },
  // goesOn reports whether a key goes on: Page Down of a pedal, or the space bar where
  // nothing is being typed that may have a space in it.
  goesOn(e, inField) {
    return e.key === 'PageDown' || (e.key === ' ' && (e.target === document.body || (inField && this.text === '')));
  },
  // tap takes what is within the tolerance, wherever on the plate a full hand lands.
  tap(e) {
    if (this.live.mine && this.plateDone() && !e.target.closest('button, a, input, select, label, summary')) this.takeLive();
  },
  plateDone() { return this.heard() && ['ready', 'inside', 'undone'].includes(this.live.phase); },

  // What is done at the plate.
  async plate(change) {
    try {
      const { changes } = await send(`${this.base()}/plate`, { window: this.window, ...change });
      return changes;
    } catch (p) {
      this.status = p.message;
      return 0;
    }
  },
  // choose shows what was chosen at once, and until the program shows it: what it said before it
  // heard of the choice is older.
  async chooseAt(name, value, change) {
    this.chosen = { ...this.chosen, [name]: { value, change: 0 } };
    const answered = await this.plate(change);
    if (this.chosen[name]?.value !== value) return;
    this.chosen = { ...this.chosen, [name]: { value, change: answered || -1 } };
    this.keepChosen();
  },
  keepChosen() {
    const open = Object.entries(this.chosen).filter(([, c]) => !c.change || c.change > this.live.changes);
    this.chosen = Object.fromEntries(open);
  },
  tare() {
    if (this.hears()) this.plate({ verb: 'tare' });
  },
  put(e) {
    if (e.target.value !== '') this.plate({ verb: 'put', grams: Number(e.target.value) });
    e.target.value = '';
  },
  zero() { this.plate({ verb: 'zero' }); },
  setMode(mode) { this.chooseAt('mode', mode, { verb: 'mode', text: mode }); },
  isMode(mode) { return (this.chosen.mode?.value ?? this.live.mode) === mode; },
  setScale(e) {
    const id = Number(e.target.value);
    this.chooseAt('scale', id, { verb: 'scale', scale_id: id });
  },
  scaleNow() { return this.chosen.scale?.value ?? (this.live.auto ? 0 : this.live.scale_id || -1); },
  isScale(n) { return this.scaleNow() === n; },
  holder() { return !this.live.held_by || this.live.held_by === deviceName() ? 'Another window' : this.live.held_by; },
  hold() { this.plate({ verb: 'hold' }); },
  // tellAt says what is weighed next, one message after the other, until the plate is
  // where the page is: two at once could arrive in the wrong order.
  async tellAt() {
    if (this.telling) return;
    this.telling = true;
    while (this.window && this.live.mine && this.at && !this.agreed() && this.untold()) {
      const told = this.atNow();
      await this.plate({ verb: 'at', ...this.at, together: !!this.together });
      this.toldFor = told;
      this.toldAt = performance.now();
    }
    this.telling = false;
  },
  untold() { return this.toldFor !== this.atNow() || performance.now() - this.toldAt > 600; },
  atNow() { return `${this.at.unit} ${this.at.component} ${!!this.together}`; },
  // agreed reports whether the plate weighs what the page shows.
  agreed() { return this.here(this.live.at) && !!this.live.together === !!this.together; },
  remember(name, on) {
    this[name] = on;
    localStorage.setItem(`scale-${name}`, on ? 'yes' : 'no');
    if (name === 'aloud' && on) this.say();
  },
  async order(byFibre) {
    if (this.busy()) return;
    await this.correct(`/weighouts/${this.view.id}/order`, { version: this.view.version, by_fibre: byFibre }, '');
  },

  // A tone says what the words on the plate say; the browser's own voice reads the next.
  signal(phase) {
    if (!this.sound || !this.live.mine) return;
    const pitch = { ready: 880, over: 220 }[phase];
    if (!pitch) return;
    this.audio = this.audio || new AudioContext();
    const tone = this.audio.createOscillator();
    const loud = this.audio.createGain();
    tone.frequency.value = pitch;
    loud.gain.setValueAtTime(0.15, this.audio.currentTime);
    loud.gain.exponentialRampToValueAtTime(0.001, this.audio.currentTime + 0.25);
    tone.connect(loud).connect(this.audio.destination);
    tone.start();
    tone.stop(this.audio.currentTime + 0.26);
  },
  say() {
    if (!this.aloud || !this.at || !window.speechSynthesis) return;
    const words = `${this.cell().name}: ${this.wantedNow()} ${this.view.unit === 'oz' ? 'ounces' : 'grams'}`;
    if (words === this.spoken) return;
    this.spoken = words;
    window.speechSynthesis.cancel();
    window.speechSynthesis.speak(new SpeechSynthesisUtterance(words));
  },
};
