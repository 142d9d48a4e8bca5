// The runs of a painted top in a photo: two ends of a known length, two corners of the top.
import { send } from './net.js';

export const paintedTop = {
  top: null,
  topGiven: null,

  async readRuns(lot) {
    const flat = (list) => (list.length === 2 ? list.flat() : [0, 0, 0, 0]);
    this.busy = true;
    this.topGiven = null;
    const r = await this.ask('runs', {
      top: this.corners.length === 2 ? this.corners.flat() : [0.02, 0.02, 0.98, 0.98], length: flat(this.ends), length_mm: 0, text: this.known, lot,
    });
    this.busy = false;
    if (!r) return;
    this.top = r;
    if (r.given) this.topGiven = { said: r.given, href: r.href, lot: r.lot };
  },
  giveRuns() {
    if (this.lot) this.readRuns(Number(this.lot));
    else this.faults = { runlot: 'Choose a lot.' };
  },
  async takeRunsBack() {
    const r = await send(`/lots/${this.topGiven.lot}/colours/back`, {}).catch((p) => ({ said: p.message }));
    this.topGiven = { said: r.said, href: '', lot: 0 };
  },
  topRuns() { return this.top ? this.top.runs : []; },
  topSaid() { return this.top ? this.top.said : ''; },
  topFacts() { return this.top ? this.top.facts : []; },
  runFill(r) { return { flexBasis: `${r.part}%`, backgroundColor: r.hex }; },
  runTitle(r) { return `${r.name}, ${r.long}`; },
};
