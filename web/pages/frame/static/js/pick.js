// Picking a lot of the shelf by its name, kind or note, for pages that add
// fibre. The field has the reference "find". Enter takes the only lot found.
import { get } from './net.js';
import { focusShown, lifted } from './focus.js';

export const picking = {
  adding: false,
  picks: [],
  more: 0, // lots that fit and are not shown
  searched: '',
  asked: 0,

  async open() {
    this.adding = true;
    focusShown(() => this.$refs.find);
    await this.find(this.$refs.find ? this.$refs.find.value : '');
  },
  close() {
    this.adding = false;
    focusShown(() => this.$refs.openadd);
  },
  search(e) {
    clearTimeout(this.timer);
    const q = e.target.value;
    this.timer = setTimeout(() => this.find(q), 120);
  },
  // find shows the answer to the latest question only.
  async find(q) {
    this.asked += 1;
    const turn = this.asked;
    const found = await get(`/shelf/pick?q=${encodeURIComponent(q)}`).catch(() => null);
    await lifted();
    if (turn !== this.asked) return;
    this.picks = found ? found.lots : [];
    this.more = found ? found.more : 0;
    this.searched = q;
  },
  // settle waits until what is listed answers the words in the field.
  async settle(q) {
    clearTimeout(this.timer);
    if (this.searched !== q || !this.picks.length) await this.find(q);
    return this.searched === q;
  },
  async findKey(e) {
    if (e.key === 'Enter') return this.takeOnly(e);
    if (e.key === 'Tab' && !e.shiftKey) return this.goToFound(e);
    return undefined;
  },
  async takeOnly(e) {
    e.preventDefault();
    const q = e.target.value;
    if (await this.settle(q) && this.picks.length === 1) {
      this.addLot(this.picks[0]);
      if (e.target.value === q) e.target.value = '';
      this.find('');
    }
  },
  // goToFound keeps a Tab until the list answers the words: the lots of the
  // words before are not what the next Enter means.
  async goToFound(e) {
    const field = e.target;
    if (this.searched === field.value && this.picks.length) return;
    e.preventDefault();
    await this.settle(field.value);
    await this.$nextTick();
    if (document.activeElement !== field) return;
    const next = this.picks.length ? 'button' : 'input, button';
    const from = this.picks.length ? this.$refs.picks : field.closest('.adder').querySelector('fieldset');
    from.querySelector(next).focus();
  },
  moreText() { return this.more === 1 ? 'One more lot fits; type more of its name.' : `${this.more} more lots fit; type more of a name.`; },
  noneFound() { return this.picks.length === 0; },
};
