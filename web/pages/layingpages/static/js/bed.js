// Draws the bed: the face of what is laid as one looks down on it, and the
// section through its depth. Only pictures; every number comes from the
// program. The same lay-up gives the same picture, strand by strand, so that
// nothing flickers while a handle is dragged.

// hash gives a number from 0 to 1 that depends on its arguments alone.
function hash(a, b, c) {
  let h = Math.imul(a + 0x9e37, 0x85ebca6b) ^ Math.imul(b + 0x79b9, 0xc2b2ae35) ^ Math.imul(c + 0x7f4a, 0x27d4eb2f);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return ((h ^ (h >>> 15)) >>> 0) / 4294967296;
}

const shades = [0.68, 0.82, 0.94, 1.06, 1.2];
const colours = new Map();

function shade(hex, f) {
  const key = hex + f;
  let out = colours.get(key);
  if (!out) {
    const part = (i) => Math.min(255, Math.round(parseInt(hex.slice(i, i + 2), 16) * f + (f > 1 ? 10 : 0)));
    out = `rgb(${part(1)},${part(3)},${part(5)})`;
    colours.set(key, out);
  }
  return out;
}

// size fits a canvas to its box and to the screen's pixels.
export function size(canvas, height) {
  const scale = Math.min(2, window.devicePixelRatio || 1);
  const width = Math.max(60, canvas.clientWidth);
  if (canvas.width !== Math.round(width * scale) || canvas.height !== Math.round(height * scale)) {
    canvas.width = Math.round(width * scale);
    canvas.height = Math.round(height * scale);
    canvas.style.height = `${height}px`;
  }
  const ctx = canvas.getContext('2d');
  ctx.setTransform(scale, 0, 0, scale, 0, 0);
  ctx.clearRect(0, 0, width, height);
  return { ctx, w: width, h: height };
}

// ordered lists the lays from the cloth outwards with what their drawing
// needs. Only those count that there(fibre, layer) tells to lie there already. Their mass is counted
// in what hides all but a third of what lies below.
function ordered(view, there) {
  const { bed, fibres } = view;
  const hides = (bed.hides_gsm * bed.width * bed.length) / 1e6;
  const out = [];
  view.input.layers.forEach((layer, n) => {
    layer.lays.forEach((lay, j) => {
      const wide = lay.to - lay.from;
      const long = lay.end - lay.start;
      if (!(wide > 0 && long > 0) || (there && !there(fibres[lay.component], n))) return;
      const { colours } = view.layers[n]?.lays[j] || {};
      out.push({ ...lay, layer: n, at: j, fibre: fibres[lay.component], mass: lay.grams / (wide * long * hides), wide, long, colours });
    });
  });
  return out;
}

// cloth draws the bare cloth with its pins.
function cloth(ctx, w, h) {
  ctx.fillStyle = '#8f8d88';
  ctx.fillRect(0, 0, w, h);
  ctx.fillStyle = '#6f6d69';
  for (let y = 5; y < h; y += 9) for (let x = 5 + ((y / 9) % 2 > 1 ? 4 : 0); x < w; x += 9) ctx.fillRect(x, y, 1.2, 1.2);
}

// face draws what one sees from above: strands along the fibre, each of the
// uppermost lay that hides what lies below; then what lies as it is.
export function face(canvas, view, height, there) {
  const { ctx, w, h } = size(canvas, height);
  cloth(ctx, w, h);
  const lays = ordered(view, there);
  strands(ctx, lays, w, h, { wide: 5, step: 5, dark: 1, seed: 3 });
  strands(ctx, lays, w, h, { wide: 1.5, step: 2, dark: 0, seed: 11 });
  for (const v of lays) if (v.fibre.look !== 'wool') things(ctx, v, lays, view, w, h);
  cuts(ctx, view, w, h);
}

function strands(ctx, lays, w, h, { wide, step, dark, seed }) {
  const columns = Math.ceil(w / step);
  const over = Array.from({ length: columns }, () => []);
  for (let i = lays.length - 1; i >= 0; i -= 1) {
    const v = lays[i];
    if (v.fibre.look !== 'wool') continue;
    const last = Math.min(columns, Math.round(v.to * columns));
    for (let c = Math.max(0, Math.round(v.from * columns)); c < last; c += 1) over[c].push(v);
  }
  const ink = new Map();
  for (let c = 0; c < columns; c += 1) {
    const list = over[c];
    if (!list.length) continue;
    let y = -20 * hash(c, 1, seed);
    for (let k = 0; y < h; k += 1) {
      const long = 26 + 60 * hash(c, k, seed + 1);
      const v = visible(list, Math.min(0.999, Math.max(0.001, (y + long / 2) / h)), c, k, seed);
      if (v) {
        const top = Math.max(y, v.start * h + 5 * (hash(c, k, 5) - 0.2));
        const foot = Math.min(y + long, v.end * h - 5 * (hash(c, k, 6) - 0.2));
        if (foot > top) stroke(ink, v, c, k, { x: (c + 0.5) * step, across: (c + 0.5) / columns, along: (top + foot) / 2 / h }, top, foot, dark, seed);
      }
      y += long * 0.86;
    }
  }
  ctx.lineWidth = wide;
  ctx.lineCap = 'round';
  for (const [colour, path] of ink) {
    ctx.strokeStyle = colour;
    ctx.stroke(path);
  }
}

// visible picks the lay that a strand shows: from the top, each hides what is
// below in proportion to its mass. Lays of one layer take turns.
function visible(list, along, c, k, seed) {
  let i = 0;
  while (i < list.length) {
    let mass = 0;
    let end = i;
    for (; end < list.length && list[end].layer === list[i].layer; end += 1) {
      const v = list[end];
      if (along >= v.start && along <= v.end) mass += v.mass;
    }
    if (mass > 0) {
      const bold = list[i].method === 'paint';
      const r = bold ? hash(c >> 2, k, seed + list[i].layer) : hash(c, k, seed + list[i].layer);
      if (r < 1 - Math.exp(-mass)) {
        let turn = hash(c, k, 77 + list[i].layer) * mass;
        for (let j = i; j < end; j += 1) {
          const v = list[j];
          if (along < v.start || along > v.end) continue;
          turn -= v.mass;
          if (turn <= 0) return v;
        }
      }
    }
    i = end;
  }
  return null;
}

// hexOf is the colour of a fibre of several that is seen at a place: that which lies uppermost there, and now and then one below.
function hexOf(v, { across, along }, chance) {
  const there = (v.colours || []).filter((p) => across >= p.from && across <= p.to && along >= p.start && along <= p.end);
  if (there.length) return there[chance < 0.75 ? there.length - 1 : Math.floor((chance - 0.75) * 4 * there.length)].hex;
  return v.fibre.hexes[Math.floor(chance * v.fibre.hexes.length)];
}

function stroke(ink, v, c, k, place, top, foot, dark, seed) {
  const { x } = place;
  const hex = hexOf(v, place, hash(c >> 1, k, seed + 21));
  const r = hash(c, k, seed + 31);
  const gloss = v.fibre.lustre === 'bright' || v.fibre.lustre === 'mirror' ? 1 : 0;
  const colour = shade(hex, dark ? shades[Math.floor(r * 2)] : shades[Math.min(4, 1 + Math.floor(r * (3 + gloss)))]);
  let path = ink.get(colour);
  if (!path) {
    path = new Path2D();
    ink.set(colour, path);
  }
  const lean = 3 * (hash(c, k, seed + 41) - 0.5);
  const wave = v.fibre.crimp === 'high' ? 3 : v.fibre.crimp === 'medium' ? 2 : 1;
  path.moveTo(x - lean, top);
  path.quadraticCurveTo(x + wave * (hash(c, k, seed + 51) - 0.5) * 2, (top + foot) / 2, x + lean, foot);
}

// above is the areal mass that lies over a place.
function above(lays, v, x, y) {
  let mass = 0;
  for (const o of lays) if (o.layer > v.layer && o.fibre.look === 'wool' && x >= o.from && x <= o.to && y >= o.start && y <= o.end) mass += o.mass;
  return mass;
}

// things draws locks, dots and film one by one, fainter the deeper they lie.
function things(ctx, v, lays, view, w, h) {
  const count = { lock: v.grams / 0.4, dots: v.grams / 0.03, film: v.grams * 90 }[v.fibre.look];
  const n = Math.max(1, Math.min(v.fibre.look === 'lock' ? 40 : 160, Math.round(count)));
  for (let i = 0; i < n; i += 1) {
    const s = v.layer * 131 + v.at * 17;
    const x = v.from + v.wide * (0.04 + 0.92 * hash(i, s, 1));
    let y = v.start + v.long * hash(i, s, 2);
    if (v.fibre.look === 'lock') { // whole inside its place, where it fits
      const half = v.fibre.staple / view.bed.length / 2;
      y = v.long > 2 * half ? v.start + half + (v.long - 2 * half) * hash(i, s, 2) : (v.start + v.end) / 2;
    }
    const show = Math.exp(-above(lays, v, x, y));
    if (show < 0.06) continue;
    ctx.globalAlpha = Math.min(1, 0.4 + 0.6 * show);
    const hex = v.fibre.hexes[i % v.fibre.hexes.length];
    if (v.fibre.look === 'lock') lock(ctx, x * w, y * h, (v.fibre.staple / view.bed.length) * h, hex, i, s);
    else if (v.fibre.look === 'dots') dot(ctx, x * w, y * h, hex, hash(i, s, 3));
    else glint(ctx, x * w, y * h, hex, i, s);
  }
  ctx.globalAlpha = 1;
}

function lock(ctx, x, y, long, hex, i, s) {
  const turn = (hash(i, s, 4) - 0.5) * 0.5;
  ctx.lineCap = 'round';
  for (let f = 0; f < 13; f += 1) {
    const off = (f - 6) * 1.3;
    ctx.strokeStyle = shade(hex, shades[(f * 3 + i) % 5]);
    ctx.lineWidth = 1.7;
    ctx.beginPath();
    for (let t = 0; t <= 14; t += 1) {
      const u = t / 14;
      const px = x + off * (1 - 0.75 * u) + 2.6 * Math.sin(u * 13 + i) * (0.5 + 0.5 * u) + turn * long * (u - 0.5);
      const py = y - long / 2 + u * long * (0.88 + 0.01 * f);
      if (t) ctx.lineTo(px, py);
      else ctx.moveTo(px, py);
    }
    ctx.stroke();
  }
}

function dot(ctx, x, y, hex, r) {
  const size0 = 2 + 2 * r;
  ctx.fillStyle = shade(hex, 0.6);
  ctx.beginPath();
  ctx.arc(x + 0.8, y + 1, size0, 0, 7);
  ctx.fill();
  ctx.fillStyle = shade(hex, 1.08);
  ctx.beginPath();
  ctx.arc(x, y, size0, 0, 7);
  ctx.fill();
}

function glint(ctx, x, y, hex, i, s) {
  const long = 8 + 16 * hash(i, s, 5);
  const lean = 3 * (hash(i, s, 6) - 0.5);
  const line = (a, b, colour, wide) => {
    ctx.strokeStyle = colour;
    ctx.lineWidth = wide;
    ctx.beginPath();
    ctx.moveTo(x + lean * (a - 0.5), y + long * (a - 0.5));
    ctx.lineTo(x + lean * (b - 0.5), y + long * (b - 0.5));
    ctx.stroke();
  };
  line(0, 1, shade(hex, 0.75), 1.1);
  const bright = hash(i, s, 7);
  line(bright * 0.7, bright * 0.7 + 0.25, '#fffdf2', 1.7);
}

// hatch veils a band in which something is not to lie.
function hatch(ctx, x, y, w, h) {
  ctx.save();
  ctx.beginPath();
  ctx.rect(x, y, w, h);
  ctx.clip();
  ctx.fillStyle = 'rgba(255,255,255,.16)';
  ctx.fillRect(x, y, w, h);
  ctx.strokeStyle = 'rgba(255,255,255,.6)';
  ctx.lineWidth = 1;
  ctx.beginPath();
  for (let at = x - h; at < x + w; at += 14) {
    ctx.moveTo(at, y + h);
    ctx.lineTo(at + h, y);
  }
  ctx.stroke();
  ctx.restore();
}

// cuts draws where rolags part, and the bands that locks keep clear of.
function cuts(ctx, view, w, h) {
  if (!view.rolls) return;
  for (const c of view.rolls.clear) hatch(ctx, 0, c.start * h, w, (c.end - c.start) * h);
  ctx.setLineDash([7, 5]);
  for (const [colour, shift] of [['#fff', 1], ['#1a1917', 0]]) {
    ctx.strokeStyle = colour;
    ctx.lineWidth = 1.6;
    for (const c of view.rolls.cuts) {
      ctx.beginPath();
      ctx.moveTo(0, c * h + shift);
      ctx.lineTo(w, c * h + shift);
      ctx.stroke();
    }
  }
  ctx.setLineDash([]);
}

// grain is a speckle that makes areas look like fibre cut across.
let grainTile;
function grain(ctx) {
  if (!grainTile) {
    grainTile = document.createElement('canvas');
    grainTile.width = 128;
    grainTile.height = 64;
    const g = grainTile.getContext('2d');
    for (let i = 0; i < 900; i += 1) {
      g.fillStyle = hash(i, 1, 9) < 0.5 ? 'rgba(0,0,0,.16)' : 'rgba(255,255,255,.16)';
      g.fillRect(128 * hash(i, 2, 9), 64 * hash(i, 3, 9), 1 + 3 * hash(i, 4, 9), 1);
    }
  }
  return ctx.createPattern(grainTile, 'repeat');
}

// runs draws the colours of a fibre of several within its lay: side by side where they lie so, else one upon the other.
function runs(ctx, v, path, { along, w, foot, high }) {
  const ends = (p) => (along ? [p.start, p.end] : [p.from, p.to]);
  const all = new Map();
  for (const p of v.colours) all.set(ends(p).join(), (all.get(ends(p).join()) || 0) + p.grams);
  const used = new Map();
  ctx.save();
  ctx.clip(path);
  for (const p of v.colours) {
    const key = ends(p).join();
    const from = used.get(key) || 0;
    used.set(key, from + p.grams);
    ctx.fillStyle = p.hex;
    const part = (p.grams / all.get(key)) * high;
    ctx.fillRect(ends(p)[0] * w, foot - (from / all.get(key)) * high - part, (ends(p)[1] - ends(p)[0]) * w, part + 0.6);
  }
  ctx.restore();
}

// section draws the depth to scale, across the width or (along) up the board:
// layers from the cloth up, the pins, and the line where they end. It gives
// what was drawn where, for the pointer.
export function section(canvas, view, height, { along = false, there, chosen, ink, wrong }) {
  const { ctx, w, h } = size(canvas, height);
  const step = 2;
  const columns = Math.ceil(w / step);
  const heights = new Float32Array(columns);
  const lays = ordered(view, there);
  const range = (v) => (along ? [v.start, v.end] : [v.from, v.to]);
  const thick = (v) => (v.fibre.mm_per_g * v.grams) / (along ? v.long : v.wide);
  const reach = new Float32Array(columns);
  for (const v of ordered(view)) {
    const [a, b] = range(v);
    for (let c = Math.round(a * columns); c < Math.round(b * columns); c += 1) reach[c] += thick(v);
  }
  let most = 0;
  for (const v of reach) most = Math.max(most, v);
  const base = h - 3;
  const perMM = (base - 18) / Math.max(view.bed.pins * 1.04, most * 1.04);
  pins(ctx, view.bed, along, w, base, perMM, ink);
  const places = [];
  const body = new Path2D();
  const letters = [];
  for (const v of lays) {
    const [a, b] = range(v);
    const c0 = Math.max(0, Math.round(a * columns));
    const c1 = Math.min(columns, Math.max(c0 + 1, Math.round(b * columns)));
    const t = thick(v);
    const path = outline(heights, c0, c1, step, base, perMM, t);
    ctx.fillStyle = v.fibre.hexes[0];
    ctx.fill(path);
    if (v.colours) runs(ctx, v, path, { along, w, foot: base - heights[(c0 + c1) >> 1] * perMM, high: t * perMM });
    ctx.strokeStyle = shade(v.fibre.hexes[0], 0.68);
    ctx.lineWidth = 0.8;
    ctx.stroke(path);
    body.addPath(path);
    const mid = (c0 + c1) >> 1;
    const top = base - (heights[mid] + t) * perMM;
    places.push({ layer: v.layer, at: v.at, x0: c0 * step, x1: c1 * step, path });
    if (chosen && chosen.layer === v.layer && chosen.at === v.at) places.chosen = path;
    if (t * perMM > 12 && (c1 - c0) * step > 20) letters.push([v.fibre.letter, mid * step, top + (t * perMM) / 2, v.fibre.hexes[0]]);
    for (let c = c0; c < c1; c += 1) heights[c] += t;
  }
  ctx.fillStyle = grain(ctx);
  ctx.fill(body);
  for (const [letter, x, y, hex] of letters) label(ctx, letter, x, y, hex);
  if (places.chosen) {
    ctx.strokeStyle = ink;
    ctx.lineWidth = 2.5;
    ctx.stroke(places.chosen);
  }
  pinLine(ctx, view.bed, w, base, perMM, heights, step, wrong);
  if (along) alongMarks(ctx, view, w, base);
  return places;
}

function outline(heights, c0, c1, step, base, perMM, t) {
  const path = new Path2D();
  path.moveTo(c0 * step, base - heights[c0] * perMM);
  for (const extra of [t, 0]) {
    const up = extra > 0;
    for (let i = up ? c0 : c1 - 1; up ? i < c1 : i >= c0; i += up ? 1 : -1) {
      const y = base - (heights[i] + extra) * perMM;
      path.lineTo((up ? i : i + 1) * step, y);
      path.lineTo((up ? i + 1 : i) * step, y);
      // one point for a run of the same height
      while (up ? i + 1 < c1 && heights[i + 1] === heights[i] : i > c0 && heights[i - 1] === heights[i]) i += up ? 1 : -1;
      path.lineTo((up ? i + 1 : i) * step, y);
    }
  }
  path.closePath();
  return path;
}

function label(ctx, letter, x, y, hex) {
  const light = parseInt(hex.slice(1, 3), 16) * 0.3 + parseInt(hex.slice(3, 5), 16) * 0.59 + parseInt(hex.slice(5, 7), 16) * 0.11 > 120;
  ctx.fillStyle = light ? '#1a1917' : '#f4f2ec';
  ctx.font = '700 12px Atkinson, sans-serif';
  ctx.textAlign = 'center';
  ctx.textBaseline = 'middle';
  ctx.fillText(letter, x, y);
}

function pins(ctx, bed, along, w, base, perMM, ink) {
  if (bed.type === 'hands') return;
  const gap = Math.max(4, (bed.pitch / (along ? bed.length : bed.width)) * w);
  ctx.strokeStyle = ink;
  ctx.globalAlpha = 0.32;
  ctx.lineWidth = 1;
  ctx.beginPath();
  for (let x = gap / 2; x < w; x += gap) {
    ctx.moveTo(x, base);
    ctx.lineTo(x + 1.5, base - bed.pins * perMM);
  }
  ctx.stroke();
  ctx.globalAlpha = 1;
  ctx.fillStyle = ink;
  ctx.fillRect(0, base, w, 3);
}

// pinLine marks where the pins end, and what stands above.
function pinLine(ctx, bed, w, base, perMM, heights, step, wrong) {
  const y = base - bed.pins * perMM;
  ctx.strokeStyle = wrong;
  ctx.lineWidth = 1.4;
  ctx.beginPath();
  ctx.moveTo(0, y);
  ctx.lineTo(w, y);
  ctx.stroke();
  ctx.fillStyle = wrong;
  heights.forEach((v, i) => {
    if (v > bed.pins * 1.002) ctx.fillRect(i * step, Math.max(0, base - v * perMM - 4), step, 3);
  });
}

function alongMarks(ctx, view, w, base) {
  if (!view.rolls) return;
  for (const c of view.rolls.clear) hatch(ctx, c.start * w, 0, (c.end - c.start) * w, base);
  ctx.strokeStyle = '#1a1917';
  ctx.setLineDash([6, 4]);
  ctx.lineWidth = 1.6;
  for (const c of view.rolls.cuts) {
    ctx.beginPath();
    ctx.moveTo(c * w, 0);
    ctx.lineTo(c * w, base);
    ctx.stroke();
  }
  ctx.setLineDash([]);
}
