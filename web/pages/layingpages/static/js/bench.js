// The lay-up at the carder: one step at a time in large type, the section
// growing with the work. Keys: Enter or the right arrow goes on, the left one
// back.
import Alpine from '../vendor/alpine.js';
import { afterPaint } from './after.js';
import { folding } from './folds.js';
import { read } from './net.js';
import { face, section } from './bed.js';

const data = read('bench-data');

function paint(faceCanvas, sectionCanvas, there) {
  const css = getComputedStyle(document.documentElement);
  const h = data.view.bed.type === 'drum' ? 150 : Math.min(240, (faceCanvas.clientWidth * data.view.bed.length) / data.view.bed.width);
  face(faceCanvas, data.view, h, there);
  section(sectionCanvas, data.view, 110, { there, ink: css.getPropertyValue('--ink'), wrong: css.getPropertyValue('--wrong') });
}

Alpine.data('bench', () => ({
  ...folding,
  steps: data.steps,
  view: data.view,
  at: 0,

  init() {
    this.at = Math.min(this.steps.length - 1, Number(window.location.hash.slice(1)) || 0);
    this.$nextTick(() => {
      this.paint();
      paint(this.$refs.sheetface, this.$refs.sheetsection);
    });
    window.addEventListener('resize', () => this.paint());
    window.addEventListener('beforeprint', () => paint(this.$refs.sheetface, this.$refs.sheetsection));
  },
  step() { return this.steps[this.at]; },
  // laid tells what lies on the cloth by this step: of this pass the layers so
  // far; of what was there before as much as was fed again, which is what lies
  // below what joins, and after the second half all of it.
  laid() {
    const { pass, half } = this.step();
    const top = this.steps.slice(0, this.at + 1).reduce((n, s) => (s.pass === pass ? Math.max(n, s.layer) : n), -1);
    const joining = this.view.input.layers.findIndex((l) => l.lays.some((v) => this.view.fibres[v.component].joins === pass));
    return (fibre, layer) => {
      if (fibre.joins === pass) return layer <= top;
      return fibre.joins < pass && (half === 2 || (half === 1 && (joining < 0 || layer < joining)));
    };
  },
  paint() { paint(this.$refs.face, this.$refs.section, this.laid()); },
  go(to) {
    if (to < 0 || to >= this.steps.length) return;
    this.at = to;
    window.history.replaceState(null, '', `#${to}`);
    afterPaint(() => { if (this.at === to) this.paint(); });
  },
  key(e) {
    if (/^(A|BUTTON|INPUT|SELECT)$/.test(e.target.tagName) && e.key === 'Enter') return;
    const way = { ArrowRight: 1, Enter: 1, PageDown: 1, ArrowLeft: -1, PageUp: -1 }[e.key];
    if (!way) return;
    e.preventDefault();
    this.go(this.at + way);
  },
  place() { return `step ${this.at + 1} of ${this.steps.length}`; },
  isFirst() { return this.at === 0; },
  isLast() { return this.at === this.steps.length - 1; },
}));
Alpine.start();
