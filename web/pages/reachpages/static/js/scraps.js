// A bag of scraps: piles that one drags scraps between, or moves them by key.
import Alpine from '../vendor/alpine.js';
import { read } from './net.js';
import { focusShown } from './focus.js';
import { editing, adder } from './edit.js';

Alpine.data('scraps', () => ({
  ...editing,
  ...adder,
  view: read('bag-data'),
  adding: false,
  sortTo: '0',
  over: -1,
  dragged: null,
  edited: -1,
  colours: ['#8a9ba6'], // of the bit that is put in next

  at() { return `/scraps/${this.view.id}/change`; },
  // body is what a typed field means.
  body(field, key, text) {
    const change = { verb: field, key: Number(key) || 0, at: 0 };
    return field === 'grams' ? { change, typed: { grams: text } } : { change: { ...change, text: text.trim() } };
  },
  act(verb, scrap, more = {}) {
    const key = scrap ? scrap.key : 0;
    return this.change({ change: { verb, key, at: 0, ...more } }, { name: key ? `row ${key}` : '' });
  },
  sort() { this.act('sort', null, { to: Number(this.sortTo) }); },
  split(pile) { this.act('split', null, { to: pile.pile }); },
  // take keeps the scrap that is moved by keys in hand: it goes to another list.
  take(view) {
    const el = document.activeElement;
    const key = el && el.dataset ? el.dataset.scrap : null;
    this.view = view;
    if (key) {
      this.$nextTick(() => {
        const now = document.activeElement;
        const moved = document.querySelector(`[data-scrap="${key}"]`);
        if (moved && (now === document.body || now === el)) moved.focus();
      });
    }
  },
  // 1 to 6 lays a scrap onto that pile; arrows go to the next one from where it
  // lies when their turn has come.
  moveKey(e, scrap) {
    const way = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
    if (e.key === 'Delete') this.act('remove', scrap);
    if (!way && !/^[1-6]$/.test(e.key)) return;
    e.preventDefault();
    this.change(() => {
      const pile = this.view.piles.find((p) => p.scraps.some((v) => v.key === scrap.key));
      const to = way ? (pile ? pile.pile + way : -1) : Number(e.key) - 1;
      return !pile || to < 0 || to > 5 || to === pile.pile ? null : { change: { verb: 'move', key: scrap.key, at: 0, to } };
    }, { name: `row ${scrap.key}` });
  },
  lift(e, scrap) {
    this.dragged = scrap;
    e.dataTransfer.effectAllowed = 'move';
    e.dataTransfer.setData('text/plain', scrap.name);
  },
  hover(pile) { this.over = pile.pile; },
  lay(pile) {
    this.over = -1;
    if (this.dragged) this.act('move', this.dragged, { to: pile.pile });
    this.dragged = null;
  },
  remove(scrap) {
    this.edited = -1;
    this.act('remove', scrap);
  },
  edit(s) { this.edited = this.edited === s.key ? -1 : s.key; },
  // A bit of several colours: one more, like the last; the last away; one of them changed.
  moreNext() { this.colours.push(this.colours[this.colours.length - 1]); },
  fewerNext() { this.colours.pop(); },
  recolour(s, i, hex) { this.coloured(s, (own) => own.map((c, j) => (j === i ? hex : c))); },
  moreOf(s) { this.coloured(s, (own) => (own.length < 8 ? [...own, own[own.length - 1]] : own)); },
  fewerOf(s) { this.coloured(s, (own) => (own.length > 1 ? own.slice(0, -1) : own)); },
  // coloured changes the colours that a scrap has when the change has its turn: an earlier one may not be answered yet.
  coloured(s, make) {
    this.change(() => {
      const now = this.view.piles.flatMap((p) => p.scraps).find((v) => v.key === s.key);
      return now && now.own ? { change: { verb: 'colours', key: s.key, at: 0, text: make(now.own).join(' ') } } : null;
    }, { name: `row ${s.key}` });
  },
  colourId(i) { return `scol${i}`; },
  colourLabel(i) { return `Colour ${i + 1}`; },
  named(s, what) { return `${what} ${s.key}`; },
  editLabel(s) { return `Change ${s.name}`; },
  toggleAdd() {
    this.adding = !this.adding;
    if (this.adding) focusShown(() => this.$refs.name);
  },
  add() {
    const kind = this.$refs.kind.value;
    const hex = this.colours[0];
    const colours = this.colours.length > 1 ? this.colours.slice() : [];
    this.addFrom(['name', 'grams'], ({ name, grams }) => ({
      change: { verb: 'add', scrap: { lot_id: null, name: name.trim(), kind, hex, colours, grams: 0, pile: 0, key: 0 } }, typed: { grams },
    }), 'add');
  },
  small() { this.change({ change: { verb: 'small' }, typed: { most: this.$refs.most.value } }, { name: 'most' }); },
  scrapLabel(s, pile) { return `${s.name}, ${s.colour}, ${s.weight}, on pile ${pile.pile + 1}${s.astray ? ', fits nowhere' : ''}. Press 1 to 6 to move it.`; },
  removeLabel(s) { return `Take ${s.name} out of the bag`; },
  empty() { return this.view.input.scraps.length === 0; },
}));
Alpine.start();
