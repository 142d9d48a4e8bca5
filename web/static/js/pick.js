// Picking a lot of the shelf by its name, kind or note, for pages that add
// fibre. The field has the reference "find".
import { get } from './net.js';
import { focusShown } from './focus.js';

export const picking = {
  adding: false,
  picks: [],

  async open() {
    this.adding = true;
    await this.find('');
    focusShown(() => this.$refs.find);
  },
  close() { this.adding = false; },
  search(e) {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.find(e.target.value), 120);
  },
  async find(q) {
    const found = await get(`/shelf/pick?q=${encodeURIComponent(q)}`).catch(() => ({ lots: [] }));
    this.picks = found.lots;
  },
};
