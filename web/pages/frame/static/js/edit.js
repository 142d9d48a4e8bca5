// A page on which one thing is edited by changes that are saved as they are
// made: sends them in order, undoes them step by step, and asks before one
// window overwrites another. at() gives the address to send to; body(field,
// key, text) the change that a typed field means. Fields are named
// "field key", where the key names the row that they are of.
import { send, get, pause, untilAnswered, wrongOf } from './net.js';
import { unsaved, commitAll } from './field.js';
import { keepFocus, lifted } from './focus.js';

export const plain = (v) => JSON.parse(JSON.stringify(v));

let onTheWay = 0;
let idle = Promise.resolve();

// Leaving waits for what is on its way, and stays where something typed could
// not be saved: a second click then goes.
let warned = null;
async function leaveAfter(e, go) {
  commitAll();
  const held = () => unsaved();
  if (onTheWay === 0 && (!held() || held() === warned)) return;
  e.preventDefault();
  e.stopPropagation();
  await idle;
  await pause(0);
  const el = held();
  if (el && el !== warned) {
    warned = el;
    el.focus();
    return;
  }
  go();
}
// settled waits until all that was changed here is saved; false where something typed could not be,
// which then has the focus.
export async function settled() {
  commitAll();
  await idle;
  await pause(0);
  const el = unsaved();
  if (el) el.focus();
  return !el;
}

document.addEventListener('click', (e) => {
  const a = e.target.closest && e.target.closest('a[href]');
  if (!a || e.defaultPrevented || e.button !== 0 || e.ctrlKey || e.metaKey || e.shiftKey || a.target) return;
  leaveAfter(e, () => { window.location.href = a.href; });
}, true);
document.addEventListener('submit', (e) => {
  const form = e.target;
  if (form.method === 'post' && !form.closest('[data-stays]')) leaveAfter(e, () => form.requestSubmit(e.submitter));
}, true);
window.addEventListener('beforeunload', (e) => {
  if (onTheWay > 0 || unsaved()) e.preventDefault();
});

export const editing = {
  faults: {},
  problem: '',
  status: '',
  conflict: null,
  queue: Promise.resolve(),
  earlier: null,
  theirs: null,

  // change sends one change after the other. what is the body, or gives it when
  // its turn has come. keep: save the outcome; name: the field that it is of,
  // where its faults are told.
  change(what, { keep = true, name = '' } = {}) {
    onTheWay += 1;
    const done = this.queue.then(() => this.changeNow(what, keep, name)).finally(() => { onTheWay -= 1; });
    this.queue = done.catch(() => {});
    idle = this.queue;
    return done;
  },
  async changeNow(what, keep, name) {
    const body = typeof what === 'function' ? what() : what;
    if (!body) return true; // nothing to do any more
    const mine = keep && !this.conflict;
    const from = performance.now();
    this.status = mine ? 'Saving' : this.status;
    try {
      const view = await untilAnswered(() => this.post(body, mine), (said) => { this.status = said; });
      await lifted();
      this.forget(name);
      this.show(view, body);
      window.dispatchEvent(new Event('changed'));
      this.status = mine ? 'Saved' : 'Not saved';
      requestAnimationFrame(() => performance.measure('change', { start: from, end: performance.now() }));
      return true;
    } catch (p) {
      if (p.status === undefined) throw p;
      this.status = 'Not saved';
      if (p.status !== 409) {
        this.blame(p, name);
        return false;
      }
      return this.stale(p.body.current, body, name);
    }
  },
  post(body, keep) { return send(this.at(), { input: plain(this.view.input), ...body, version: this.view.version, keep }); },
  // stale: another window was first. What was done here goes on, unsaved, until
  // she chooses.
  stale(current, body, name) {
    this.conflict = current;
    return body.step ? false : this.changeNow(body, false, name);
  },
  // show puts a view in place; the focus stays where it was, or beside it.
  show(view, body) {
    const back = keepFocus();
    this.take(view, body);
    this.problem = '';
    this.earlier = null;
    this.$nextTick(back);
  },
  take(view) { this.view = view; },

  // Typed fields. A handler of the page says what a field means.
  typed(e) {
    const { name } = e.target;
    const [field, ...key] = name.split(' ');
    e.detail.sent(this.change(() => this.body(field, key.join(' '), e.detail.text), { name }));
  },
  givenUp(e) { this.forget(e.target.name); },
  forget(name) {
    if (!name || !(name in this.faults)) return;
    const { [name]: gone, ...rest } = this.faults;
    this.faults = rest;
  },
  // blame puts what is wrong at the field that it is of; without one above all.
  blame(p, name) {
    const said = wrongOf(p);
    if (name) this.faults = { ...this.faults, [name]: said };
    else this.problem = said;
  },
  fault(name) { return this.faults[name] || ''; },
  // faultOf is what is wrong in the fields of a row.
  faultOf(key) {
    return Object.entries(this.faults).filter(([name]) => name.endsWith(` ${key}`)).map(([, said]) => said).join(' ');
  },

  // Both wait for what is still on its way.
  keepMine() {
    this.change(() => {
      this.view.version = this.conflict.version;
      this.conflict = null;
      return {};
    });
  },
  // takeTheirs keeps hers as a step, so that undo brings it back.
  takeTheirs() {
    this.change(() => {
      this.view.version = this.conflict.version;
      this.theirs = this.conflict.input;
      this.conflict = null;
      return {};
    });
    this.change(() => ({ input: this.theirs })).then(() => { this.status = 'This is the other one. Undo brings yours back.'; });
  },

  // Steps are kept by the program, so that they outlive the page.
  undo() { if (this.canUndo()) this.change({ step: { way: 'undo', to: 0 } }); },
  redo() { if (this.canRedo()) this.change({ step: { way: 'redo', to: 0 } }); },
  canUndo() { return !!this.view.undo && !this.conflict; },
  canRedo() { return !!this.view.redo && !this.conflict; },
  undoTitle() { return this.view.undo ? `back to how it was until ${this.view.undo}` : 'nothing to undo'; },
  async listEarlier(e) {
    if (!e.target.open) return;
    await this.queue;
    this.earlier = await get(this.at().replace('change', 'steps')).catch(() => []);
  },
  earlierList() { return this.earlier || []; },
  earlierNone() { return this.earlier && this.earlier.length === 0; },
  earlierText(s) { return s.said ? `${s.sum} (${s.said})` : s.sum; },
  goBackTo(s) {
    this.$root.querySelector('.earlier').open = false;
    this.change({ step: { way: '', to: s.id } });
  },
  key(e) {
    if (!(e.ctrlKey || e.metaKey) || /^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName)) return;
    const k = e.key.toLowerCase();
    if (k === 'z' || k === 'y') {
      e.preventDefault();
      if (k === 'y' || e.shiftKey) this.redo();
      else this.undo();
    }
  },
  fill(hex) { return { backgroundColor: hex }; },
};

// adding is for what is typed in several fields and then put in as one: the
// fields are free for the next at once; what was refused comes back into them,
// or waits beside them where she is typing on.
export const adder = {
  refusedAdds: [],
  // add takes the texts of fields (by reference) and sends what make(texts)
  // gives.
  async addFrom(refs, make, name) {
    const texts = {};
    for (const ref of refs) {
      texts[ref] = this.$refs[ref].value;
      this.$refs[ref].value = '';
    }
    this.$refs[refs[0]].focus();
    this.forget(name);
    const ok = await this.change(() => make(texts), { name });
    if (ok) return true;
    if (refs.every((ref) => this.$refs[ref].value === '')) this.bringBack({ refs, texts });
    else this.refusedAdds = [...this.refusedAdds, { refs, texts, said: this.fault(name), what: texts[refs[0]] || 'what you typed' }];
    return false;
  },
  bringBack(r) {
    for (const ref of r.refs) this.$refs[ref].value = r.texts[ref];
    this.refusedAdds = this.refusedAdds.filter((o) => o !== r);
  },
};
