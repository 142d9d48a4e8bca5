// The second look beside a blend: what a practised eye would say, why, and the mend.
import { get } from './net.js';

export const seconding = {
  second: null,
  secondTurn: 0,

  lookSoon() {
    clearTimeout(this.secondTimer);
    this.secondTimer = setTimeout(() => this.lookOver(), 300);
  },
  async lookOver() {
    this.secondTurn += 1;
    const turn = this.secondTurn;
    await this.queue;
    const v = await get(`/blends/${this.view.id}/second.json`).catch(() => ({ said: 'It could not be looked over just now.', open: [], more: [], untold: [] }));
    if (turn === this.secondTurn) this.second = v;
  },
  firstFindings() { return this.second ? this.second.open : []; },
  moreFindings() { return this.second ? this.second.more : []; },
  secondSaid() { return this.second ? this.second.said : 'Looking it over.'; },
  untold() { return this.second ? this.second.untold : []; },
  findingClass(f) { return `finding ${f.severity}`; },
  mendIt(f) {
    return this.change({ change: { verb: 'mend', key: f.rule, at: f.component, value: 0, settled: [] }, said: `mended: ${f.key}` });
  },
  swatch(hex) { return { backgroundColor: hex }; },
};
