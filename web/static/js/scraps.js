// A bag of scraps: piles that one drags scraps between, or moves them by key.
import Alpine from '../vendor/alpine.js';
import { read } from './net.js';
import { focusShown } from './focus.js';
import { editing } from './edit.js';

Alpine.data('scraps', () => ({
  ...editing,
  view: read('bag-data'),
  adding: false,
  sortTo: '0',
  over: -1,
  dragged: null,
  edited: -1,

  at() { return `/scraps/${this.view.id}/change`; },
  fields(errors) {
    const known = (e) => ['name', 'grams', 'most', 'scraps', 'pile'].includes(e.field) || /^scraps\[\d+\]/.test(e.field);
    return errors.length > 0 && errors.every(known);
  },
  addFault() {
    const last = `scraps[${this.view.input.scraps.length}]`;
    const key = Object.keys(this.faults).find((k) => k === 'grams' || k.startsWith(last));
    return key ? this.faults[key] : '';
  },
  rename(e) { this.change({ verb: 'name', text: e.target.value }); },
  sort() { this.change({ verb: 'sort', to: Number(this.sortTo) }); },
  split(pile) { this.change({ verb: 'split', at: pile.pile }); },
  async move(scrap, to) {
    await this.change({ verb: 'move', at: scrap.at, to });
    this.$nextTick(() => {
      const el = document.querySelector(`[data-at="${scrap.at}"]`);
      if (el) el.focus();
    });
  },
  // 1 to 6 lays a scrap onto that pile; arrows go to the next one.
  moveKey(e, scrap, pile) {
    const way = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
    let to = -1;
    if (/^[1-6]$/.test(e.key)) to = Number(e.key) - 1;
    else if (way) to = pile.pile + way;
    else if (e.key === 'Delete') this.change({ verb: 'remove', at: scrap.at });
    if (to < 0 || to > 5 || to === pile.pile) return;
    e.preventDefault();
    this.move(scrap, to);
  },
  lift(e, scrap) {
    this.dragged = scrap;
    e.dataTransfer.effectAllowed = 'move';
    e.dataTransfer.setData('text/plain', scrap.name);
  },
  hover(pile) { this.over = pile.pile; },
  lay(pile) {
    this.over = -1;
    if (this.dragged) this.change({ verb: 'move', at: this.dragged.at, to: pile.pile });
    this.dragged = null;
  },
  remove(scrap) {
    this.edited = -1;
    this.change({ verb: 'remove', at: scrap.at });
  },
  edit(s) { this.edited = this.edited === s.at ? -1 : s.at; },
  set(e, verb, s) { this.change({ verb, at: s.at, text: e.target.value }); },
  scrapFault(s) {
    const key = Object.keys(this.faults).find((k) => k.startsWith(`scraps[${s.at}]`));
    return key ? this.faults[key] : '';
  },
  editLabel(s) { return `Change ${s.name}`; },
  toggleAdd() {
    this.adding = !this.adding;
    if (this.adding) focusShown(() => this.$refs.name);
  },
  async add() {
    const r = this.$refs;
    const text = r.grams.value;
    const before = this.view.input.scraps.length;
    await this.change({ verb: 'add', text, scrap: { lot_id: null, name: r.name.value, kind: r.kind.value, hex: r.hex.value, grams: 0, pile: 0 } });
    if (this.view.input.scraps.length > before) {
      r.name.value = '';
      r.grams.value = '';
      r.name.focus();
    }
  },
  small() { this.change({ verb: 'small', text: this.$refs.most.value }); },
  scrapLabel(s, pile) { return `${s.name}, ${s.colour}, ${s.weight}, on pile ${pile.pile + 1}${s.astray ? ', fits nowhere' : ''}. Press 1 to 6 to move it.`; },
  removeLabel(s) { return `Take ${s.name} out of the bag`; },
  empty() { return this.view.input.scraps.length === 0; },
}));
Alpine.start();
