// What hands do at a step: told in full, or folded by who knows it. What keeps from harm is never folded away.
const key = 'motions-folded';

export const folding = {
  unfolded: window.localStorage.getItem(key) !== 'yes',
  motions() { return this.step().motions.filter((m) => this.unfolded || m.safe); },
  foldable() { return this.step().motions.some((m) => !m.safe); },
  fold() {
    this.unfolded = !this.unfolded;
    window.localStorage.setItem(key, this.unfolded ? 'no' : 'yes');
  },
  foldWords() { return this.unfolded ? 'I know how' : 'How hands do it'; },
};
