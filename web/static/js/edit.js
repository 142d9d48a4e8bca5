// A page on which one thing is edited by changes that are saved as they are
// made: sends them in order, keeps the steps for undo, and asks before one
// window overwrites another. at() gives the address to send to.
import { send, pause } from './net.js';

export const plain = (v) => JSON.parse(JSON.stringify(v));

export const editing = {
  past: [],
  future: [],
  faults: {},
  problem: '',
  status: '',
  conflict: null,
  queue: Promise.resolve(),

  // change sends one change after the other. keep: save the outcome; track: it
  // is a step of its own for undo.
  change(body, keep = true, track = true) {
    this.queue = this.queue.then(() => this.changeNow(body, keep, track));
    return this.queue;
  },
  async changeNow(body, keep, track) {
    const before = plain(this.view.input);
    const mine = keep && !this.conflict;
    const from = performance.now();
    this.status = mine ? 'Saving' : this.status;
    for (;;) {
      try {
        const view = await send(this.at(), { input: before, ...body, version: this.view.version, keep: mine });
        if (track) {
          this.past.push(before);
          this.future = [];
        }
        this.take(view);
        this.status = mine ? 'Saved' : 'Not saved';
        requestAnimationFrame(() => performance.measure('change', { start: from, end: performance.now() }));
        return true;
      } catch (p) {
        if (p.status === 0) {
          this.status = p.message;
          await pause(1500);
          continue;
        }
        this.refused(p, body);
        return false;
      }
    }
  },
  take(view) {
    this.view = view;
    this.faults = {};
    this.problem = '';
  },
  refused(p, body) {
    this.status = 'Not saved';
    if (p.status === 409) {
      this.conflict = p.body.current;
      // What was done here goes on, unsaved, until she chooses.
      this.change({ ...body }, false, true);
      return;
    }
    this.blame(p, body);
  },
  // blame puts what is wrong where it belongs.
  blame(p) {
    this.faults = {};
    this.problem = '';
    for (const e of p.body.errors || []) this.faults[e.field] = e.message;
    if (!this.fields(p.body.errors || [])) this.problem = p.message;
  },
  // fields tells whether all faults have a field of their own on the page.
  fields(errors) { return errors.length > 0 && errors.every((e) => (this.own || []).includes(e.field)); },
  // Both wait for what is still on its way.
  keepMine() {
    this.queue = this.queue.then(() => {
      this.view.version = this.conflict.version;
      this.conflict = null;
      return this.changeNow({}, true, false);
    });
  },
  takeTheirs() {
    this.queue = this.queue.then(() => {
      this.past.push(plain(this.view.input));
      this.take(this.conflict);
      this.conflict = null;
      this.status = 'This is the other one. Undo brings yours back.';
    });
  },
  undo() { this.queue = this.queue.then(() => this.step(this.past, this.future)); },
  redo() { this.queue = this.queue.then(() => this.step(this.future, this.past)); },
  async step(from, to) {
    if (!from.length) return;
    const now = plain(this.view.input);
    const input = from.pop();
    if (await this.changeNow({ input }, true, false)) to.push(now);
    else from.push(input);
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
  fault(field) { return this.faults[field] || ''; },
  fill(hex) { return { backgroundColor: hex }; },
};
