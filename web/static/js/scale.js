// The bench view: one component at a time. A reading is shown as weighed only
// after the server has it on disk.
import Alpine from '../vendor/alpine.js';
import { send, read, pause } from './net.js';

const fresh = () => Array.from(crypto.getRandomValues(new Uint8Array(16)), (b) => b.toString(16).padStart(2, '0')).join('');

Alpine.data('scale', () => ({
  view: read('scale-data'),
  at: null,
  shown: 0,
  text: '',
  problem: '',
  status: '',
  choice: null,
  busy: false,

  init() {
    this.follow();
    this.fromTable();
    this.$watch('at', () => this.focus());
    this.focus();
  },
  follow() {
    const n = this.view.next;
    this.at = n ? { unit: n.unit, component: n.component } : null;
    this.shown = n ? n.unit : this.view.units.length - 1;
  },
  // fromTable goes to the place that a link of the table names.
  fromTable() {
    const m = /^#(\d+)-(\d+)$/.exec(window.location.hash);
    const unit = m && this.view.units[m[1]];
    if (!unit || !unit.cells[m[2]] || unit.cells[m[2]].done) return;
    this.shown = Number(m[1]);
    this.at = { unit: this.shown, component: Number(m[2]) };
  },
  focus() {
    this.$nextTick(() => this.$refs.said && this.$refs.said.focus());
  },
  unit() { return this.view.units[this.shown]; },
  cell() { return this.at ? this.view.units[this.at.unit].cells[this.at.component] : this.view.units[0].cells[0]; },
  place() { return `${this.at.component + 1} of ${this.unit().cells.length}`; },
  isAt(i) { return this.at && this.at.unit === this.shown && this.at.component === i ? 'true' : 'false'; },
  isUnit(i) { return i === this.shown ? 'true' : 'false'; },
  unitLabel(u, i) { return u.done ? `${i + 1} ✓` : String(i + 1); },
  go(i) {
    this.at = { unit: this.shown, component: i };
    this.text = '';
    this.choice = null;
    this.problem = '';
  },
  turn(i) {
    this.shown = i;
    const open = this.view.units[i].cells.findIndex((c) => !c.done);
    if (open >= 0) this.go(open);
  },

  reading() { return Number.parseFloat(this.text.replace(',', '.')) || 0; },
  // The gauge spans a little more than what is wanted; it only draws.
  gauge() { return String(Math.max(0, Math.min(740, 660 * (this.reading() / Math.max(this.cell().wanted_n, 1e-9))))); },
  tolerance() {
    const w = Math.max(this.cell().wanted_n, 1e-9);
    const near = (v) => Math.min(738, 660 * v / w).toFixed(1);
    const s = this.cell().step_n;
    return `M${near(w - s)} 2V70M${near(w + s)} 2V70`;
  },
  gaugeLabel() { return `${this.text || 'nothing'} of ${this.cell().wanted} ${this.view.unit}`; },
  offWords() { return this.choice.verdict === 'over' ? 'more than wanted. What shall the others do?' : 'less than wanted. Add more to the bowl, or book it:'; },

  body(policy) {
    return { version: this.view.version, key: this.choice ? this.choice.key : fresh(), unit: this.at.unit, component: this.at.component, text: this.text, policy };
  },
  // hold sends and tries again while there is no connection; the key makes a
  // second try the same weighing.
  async hold(url, body) {
    for (;;) {
      try {
        const data = await send(url, body);
        this.problem = '';
        return data;
      } catch (p) {
        if (p.status === 0) {
          this.status = p.message;
          await pause(1500);
          continue;
        }
        if (p.status === 409) {
          this.view = p.body.current;
          this.choice = null;
          this.follow();
          this.problem = 'Another window weighed in the meantime. This is how it stands now; what you typed is still here.';
        } else {
          this.problem = (p.body.errors || []).map((e) => e.message).join(' ') || p.message;
        }
        return null;
      }
    }
  },
  async weighed() {
    if (this.busy || this.choice) return;
    this.busy = true;
    const key = fresh();
    const said = await this.hold(`/weighouts/${this.view.id}/consider`, { ...this.body(''), key });
    this.busy = false;
    if (!said) return;
    if (said.verdict === 'fine') {
      await this.book('');
      return;
    }
    this.choice = { ...said, key };
    this.$nextTick(() => this.$refs.choice.querySelector('button').focus());
  },
  async book(policy) {
    if (this.busy) return;
    this.busy = true;
    const said = `${this.text} ${this.view.unit} of ${this.cell().name}`;
    const view = await this.hold(`/weighouts/${this.view.id}/weigh`, this.body(policy));
    this.busy = false;
    if (!view) {
      this.choice = null;
      return;
    }
    this.view = view;
    this.text = '';
    this.choice = null;
    this.status = `Kept: ${said}`;
    this.follow();
    this.focus();
  },
  putBack() {
    this.choice = null;
    this.$nextTick(() => this.$refs.said.select());
  },
  async undo() {
    if (this.busy || !this.view.undo) return;
    this.busy = true;
    const view = await this.hold(`/weighouts/${this.view.id}/undo`, { version: this.view.version });
    this.busy = false;
    if (!view) return;
    this.view = view;
    this.choice = null;
    this.status = 'The last weighing is undone; its fibre is back on the shelf.';
    this.follow();
    this.focus();
  },
  key(e) {
    if (this.choice && /^[1-3]$/.test(e.key) && this.choice.options[e.key - 1]) {
      e.preventDefault();
      this.book(this.choice.options[e.key - 1].policy);
    } else if (this.choice && e.key === 'Escape') {
      this.putBack();
    } else if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'z' && this.text === '') {
      e.preventDefault();
      this.undo();
    }
  },
}));
Alpine.start();
