// A list of lots to choose one from: the first by name, and by part of a name those that have it. What
// is chosen stays among them.
import { get } from './net.js';

// lotSearch makes a page's data able to search its select of lots.
export const lotSearch = {
  lotsFound: [],
  lotsAsked: 0,
  lotTimer: 0,
  searchLots(e) {
    clearTimeout(this.lotTimer);
    const q = e.target.value;
    this.lotTimer = setTimeout(() => this.findLots(q), 150);
  },
  async findLots(q) {
    this.lotsAsked += 1;
    const turn = this.lotsAsked;
    const found = await get(`/shelf/pick?sort=name&q=${encodeURIComponent(q)}`).catch(() => null);
    if (!found || turn !== this.lotsAsked) return;
    const chosen = this.lotsFound.find((l) => String(l.id) === String(this.chosenLot()));
    this.lotsFound = found.lots;
    if (chosen && !found.lots.some((l) => l.id === chosen.id)) this.lotsFound.push(chosen);
  },
  lotLabel(l) { return `${l.name}, ${l.sub}`; },
  isChosenLot(l) { return String(l.id) === String(this.chosenLot()); },
};
