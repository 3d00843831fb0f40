/** Families of what screens show: each makes one slot out of random numbers, as apps of many makers draw them. */
import { contrastRatio, type Rgb, toHex } from '../../../src/core/areas/contrast/colour.ts';
import { COLUMN_DP, type Meaning, type Part, type Slot } from './scene.ts';
import { lineOf, type Typeface, typefaces } from './typefaces.ts';

export type Random = () => number;

/** Repeatable numbers from 0 to 1. */
export function seeded(seed: number): Random {
  let state = (seed ^ 0x9e3779b9) >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}

export interface Choice {
  random: Random;
  pick<T>(list: readonly T[]): T;
  between(least: number, most: number): number;
  chance(of: number): boolean;
  /** Of the sheet: what slots lie on. */
  page: string;
}

export const choices = (random: Random, page: string): Choice => ({
  random,
  page,
  pick: (list) => list[Math.floor(random() * list.length)]!,
  between: (least, most) => least + random() * (most - least),
  chance: (of) => random() < of,
});

export const rgbOf = (hex: string): Rgb =>
  [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16)) as unknown as Rgb;

const anyColour = ({ random }: Choice): Rgb =>
  [0, 1, 2].map(() => Math.floor(random() * 256)) as unknown as Rgb;

/** A colour of about that ratio to the given one, of any hue. */
export function colourOn(of: Choice, background: string, ratio = ratioOf(of)): string {
  const behind = rgbOf(background);
  const off = (rgb: Rgb) => Math.abs(Math.log(contrastRatio(rgb, behind) / ratio));
  let best = anyColour(of);
  for (let i = 0; i < 250; i++) {
    const next: Rgb = i % 5 === 0 ? grey(of) : anyColour(of);
    if (off(next) < off(best)) best = next;
  }
  return toHex(best);
}
const grey = ({ random }: Choice): Rgb => {
  const level = Math.floor(random() * 256);
  return [level, level, level];
};
/** Evenly over the logarithm, so that there are as many from 1.3 to 3 as from 4.5 to 10. */
const ratioOf = ({ between }: Choice): number => Math.exp(between(Math.log(1.35), Math.log(17)));

const background = (of: Choice): string =>
  of.chance(0.35) ? of.pick(['#ffffff', '#121212', '#f4f1ea', '#1c1b1f', '#fdfcff']) : toHex(anyColour(of));

const rect = (x: number, y: number, w: number, h: number, fill: string, rx = 0, more = ''): string =>
  `<rect x="${x.toFixed(2)}" y="${y.toFixed(2)}" width="${w.toFixed(2)}" height="${h.toFixed(2)}" rx="${rx}" fill="${fill}" ${more}/>`;

// ---- texts

const RTL = new Set(['Hebrew', 'Arabic']);
const escapeXml = (text: string): string => text.replace(/[&<>]/g, (c) => `&#${c.charCodeAt(0)};`);

interface Written {
  part: Part;
  width: number;
  /** Line box from its top. */
  height: number;
}

interface WriteOptions {
  x: number;
  /** Of the line box. */
  top: number;
  paint: string;
  opacity?: number;
  text?: string;
  face?: Typeface;
  sizeDp?: number;
  weight?: number;
  underlined?: boolean;
  maxWidth?: number;
}

function write(of: Choice, options: WriteOptions): Written {
  const face = options.face ?? of.pick(typefaces);
  const weights = Object.keys(face.files).map(Number);
  const weight = options.weight ?? of.pick(weights);
  const text = options.text ?? of.pick(face.texts);
  let sizeDp = options.sizeDp ?? Math.round(of.between(10, 34) * 2) / 2;
  while (sizeDp > 10 && lineOf(face, weight, sizeDp, text).width > (options.maxWidth ?? COLUMN_DP - 40))
    sizeDp -= 0.5;
  const { ascent, descent, width } = lineOf(face, weight, sizeDp, text);
  const baseline = options.top + ascent;
  const shown = RTL.has(face.script) ? `\u202b${escapeXml(text)}\u202c` : escapeXml(text);
  const ink = (paint: string) =>
    `<text x="${options.x.toFixed(2)}" y="${baseline.toFixed(2)}" font-family="${face.name}" font-size="${sizeDp}" font-weight="${weight}" fill="${paint}" xml:space="preserve">${shown}</text>${
      options.underlined
        ? rect(options.x, baseline + sizeDp * 0.1, width, Math.max(1, sizeDp / 14), paint)
        : ''
    }`;
  return {
    part: { kind: 'text', text, sizeDp, weight, paint: options.paint, opacity: options.opacity ?? 1, ink },
    width,
    height: ascent + descent,
  };
}

const meaningOf = (
  { height, part, width }: Written,
  x: number,
  top: number,
  of: Partial<Meaning> = {},
): Meaning => ({
  role: 'text',
  box: [x, top, width, height],
  text: part.text,
  sizeDp: part.sizeDp,
  weight: part.weight,
  ...of,
});

/** A text alone on something that is drawn under it. */
function onGround(
  family: string,
  of: Choice,
  ground: (width: number, height: number) => string,
  options: { paint: string; opacity?: number; underlined?: boolean },
): Slot {
  const pad = of.between(6, 12);
  const written = write(of, { x: pad, top: pad, ...options });
  const [width, height] = [written.width + 2 * pad, written.height + 2 * pad];
  return {
    family,
    width,
    height,
    layers: [ground(width, height), 0],
    parts: [written.part],
    meaning: [meaningOf(written, 0, 0, { box: [0, 0, width, height] })],
  };
}

// ---- icons, each in a view box of 24

const STROKED = 'fill="none" stroke-linecap="round" stroke-linejoin="round"';
const GLYPHS: readonly ((paint: string) => string)[] = [
  (p) => `<path d="M11 4h2v7h7v2h-7v7h-2v-7H4v-2h7z" fill="${p}"/>`,
  (p) => `<path d="M4 12.500l5.500 5.500L20 7" stroke="${p}" stroke-width="2.2" ${STROKED}/>`,
  (p) => `<path d="M6 6l12 12M18 6L6 18" stroke="${p}" stroke-width="2" ${STROKED}/>`,
  (p) =>
    `<path d="M12 3l2.700 5.700 6.300.800-4.600 4.300 1.200 6.200L12 17l-5.600 3 1.200-6.200L3 9.500l6.300-.800z" fill="${p}"/>`,
  (p) =>
    `<path d="M12 21s-7-4.600-9-9.300C1.800 8.500 4 5 7.200 5c2 0 3.600 1.100 4.800 2.800C13.200 6.100 14.800 5 16.800 5 20 5 22.200 8.500 21 11.700 19 16.400 12 21 12 21z" fill="${p}"/>`,
  (p) =>
    `<circle cx="12" cy="12" r="8.500" stroke="${p}" stroke-width="1.800" fill="none"/><path d="M12 7v5.500l3.500 2" stroke="${p}" stroke-width="1.800" ${STROKED}/>`,
  (p) => `<path d="M5 7h14M5 12h14M5 17h14" stroke="${p}" stroke-width="2" ${STROKED}/>`,
  (p) =>
    `<circle cx="12" cy="5.500" r="1.900" fill="${p}"/><circle cx="12" cy="12" r="1.900" fill="${p}"/><circle cx="12" cy="18.500" r="1.900" fill="${p}"/>`,
  (p) =>
    `<circle cx="10.500" cy="10.500" r="6" stroke="${p}" stroke-width="2" fill="none"/><path d="M15 15l5 5" stroke="${p}" stroke-width="2" ${STROKED}/>`,
  (p) => `<path d="M12 3a6 6 0 0 1 6 6v4l2 4H4l2-4V9a6 6 0 0 1 6-6z M10 19h4a2 2 0 0 1-4 0z" fill="${p}"/>`,
  (p) =>
    `<path d="M3.500 6.500h17v11h-17z M3.500 7l8.500 6.500L20.500 7" stroke="${p}" stroke-width="1.600" ${STROKED}/>`,
  (p) =>
    `<path d="M12 2.500a9.500 9.500 0 1 0 .01 0z M11 7h2v6.500h-2z M11 15.300h2v2h-2z" fill-rule="evenodd" fill="${p}"/>`,
  (p) => `<path d="M14.500 5L8 12l6.500 7" stroke="${p}" stroke-width="2.200" ${STROKED}/>`,
  (p) => `<path d="M4 10.500L12 4l8 6.500V20h-5.500v-5.500h-5V20H4z" fill="${p}"/>`,
];

function icon(of: Choice, x: number, y: number, size: number, paint: string, opacity = 1): Part {
  const glyph = of.pick(GLYPHS);
  return {
    kind: 'icon',
    text: '',
    sizeDp: size,
    weight: 400,
    paint,
    opacity,
    ink: (colour) =>
      `<g transform="translate(${x.toFixed(2)} ${y.toFixed(2)}) scale(${(size / 24).toFixed(4)})">${glyph(colour)}</g>`,
  };
}

// ---- what lies under

/** Unique in a sheet. */
const idOf = ({ random }: Choice): string => `d${Math.floor(random() * 1e12).toString(36)}`;

function gradient(
  of: Choice,
  from: string,
  to: string,
  stops: readonly string[] = [],
): [defs: string, fill: string] {
  const id = idOf(of);
  const [x2, y2] = of.pick([
    [1, 0],
    [0, 1],
    [1, 1],
  ] as const);
  const middle = stops.map((stop) => stop).join('');
  return [
    `<defs><linearGradient id="${id}" x1="0" y1="0" x2="${x2}" y2="${y2}"><stop offset="0" stop-color="${from}"/>${middle}<stop offset="1" stop-color="${to}"/></linearGradient></defs>`,
    `url(#${id})`,
  ];
}

function shadowed(of: Choice, shape: string): string {
  const id = idOf(of);
  const [blur, drop] = [of.between(1, 5), of.between(0.5, 4)];
  return `<defs><filter id="${id}" x="-60%" y="-60%" width="220%" height="220%"><feGaussianBlur in="SourceAlpha" stdDeviation="${blur.toFixed(2)}"/><feOffset dy="${drop.toFixed(2)}"/><feComponentTransfer><feFuncA type="linear" slope="0.35"/></feComponentTransfer><feMerge><feMergeNode/><feMergeNode in="SourceGraphic"/></feMerge></filter></defs><g filter="url(#${id})">${shape}</g>`;
}

/** Marks of one kind in rows, or strewn. */
function pattern(of: Choice, width: number, height: number, ground: string, mark: string): string {
  const step = of.between(5, 16);
  const size = step * of.between(0.2, 0.55);
  const kind = of.pick(['stripes', 'slanted', 'dots', 'checks', 'crosses', 'strewn'] as const);
  const id = idOf(of);
  const inside: string[] = [];
  const across = (draw: (x: number, y: number) => string, jitter = 0) => {
    for (let y = 0; y < height; y += step)
      for (let x = 0; x < width; x += step)
        inside.push(draw(x + of.random() * jitter * step, y + of.random() * jitter * step));
  };
  if (kind === 'stripes') for (let y = 0; y < height; y += step) inside.push(rect(0, y, width, size, mark));
  if (kind === 'slanted')
    for (let x = -height; x < width; x += step)
      inside.push(
        `<path d="M${x.toFixed(1)} ${height.toFixed(1)}l${height.toFixed(1)} ${(-height).toFixed(1)}" stroke="${mark}" stroke-width="${size.toFixed(2)}"/>`,
      );
  if (kind === 'dots')
    across(
      (x, y) =>
        `<circle cx="${x.toFixed(1)}" cy="${y.toFixed(1)}" r="${(size / 1.6).toFixed(2)}" fill="${mark}"/>`,
    );
  if (kind === 'strewn')
    across(
      (x, y) =>
        `<circle cx="${x.toFixed(1)}" cy="${y.toFixed(1)}" r="${(size * of.between(0.3, 0.8)).toFixed(2)}" fill="${mark}"/>`,
      1,
    );
  if (kind === 'checks')
    across(
      (x, y) =>
        rect(x, y, step / 2, step / 2, mark) + rect(x + step / 2, y + step / 2, step / 2, step / 2, mark),
    );
  if (kind === 'crosses')
    across(
      (x, y) =>
        `<path d="M${x.toFixed(1)} ${y.toFixed(1)}h${size.toFixed(1)}m${(-size / 2).toFixed(1)} ${(-size / 2).toFixed(1)}v${size.toFixed(1)}" stroke="${mark}" stroke-width="1.2"/>`,
    );
  return `<defs><clipPath id="${id}">${rect(0, 0, width, height, '#000')}</clipPath></defs><g clip-path="url(#${id})">${rect(0, 0, width, height, ground)}${inside.join('')}</g>`;
}

/** Noise over waves of light: what a photo is to a measurement. */
function photo(of: Choice, width: number, height: number): string {
  const [columns, rows] = [Math.ceil(width / 1.5), Math.ceil(height / 1.5)];
  const base = of.between(60, 200);
  const [a, b, c] = [of.between(8, 40), of.between(8, 30), of.between(0, 6)];
  const blur = idOf(of);
  const cells: string[] = [];
  for (let y = 0; y < rows; y++)
    for (let x = 0; x < columns; x++) {
      const wave = Math.sin(x / a + c) * 38 + Math.sin(y / b + x / 60) * 32 + (of.random() - 0.5) * 26;
      const level = (k: number) => Math.max(0, Math.min(255, Math.round(base + wave * k)));
      cells.push(
        `<rect x="${x * 1.5}" y="${y * 1.5}" width="1.6" height="1.6" fill="rgb(${level(1)},${level(0.7)},${level(-0.4)})"/>`,
      );
    }
  return `<defs><filter id="${blur}"><feGaussianBlur stdDeviation="0.5"/></filter></defs><g filter="url(#${blur})">${cells.join('')}</g>`;
}

/** A text whose last word has another colour, and is in the same node. */
function twoColours(
  family: string,
  of: Choice,
  other: (first: Part) => { sizeDp?: number; weight?: number },
): Slot {
  const ground = background(of);
  const face = of.pick(typefaces.filter(({ script }) => script === 'Latin'));
  const sizeDp = Math.round(of.between(11, 20) * 2) / 2;
  const first = write(of, { x: 8, top: 8, paint: colourOn(of, ground), face, sizeDp, maxWidth: 140 });
  const at = 8 + first.width + first.part.sizeDp * 0.3;
  const style = { sizeDp: first.part.sizeDp, weight: first.part.weight, ...other(first.part) };
  const text = of.pick(['Undo', 'more', 'Details']);
  // on the same line
  const lower =
    lineOf(face, first.part.weight, first.part.sizeDp, text).ascent -
    lineOf(face, style.weight, style.sizeDp, text).ascent;
  const second = write(of, { x: at, top: 8 + lower, paint: colourOn(of, ground), face, text, ...style });
  const [width, height] = [at + second.width + 8, first.height + 16];
  return {
    family,
    width,
    height,
    layers: [rect(0, 0, width, height, ground), 0, 1],
    parts: [first.part, second.part],
    joined: true,
    meaning: [
      meaningOf(first, 0, 0, {
        box: [0, 0, width, height],
        text: `${first.part.text} ${second.part.text}`,
      }),
    ],
  };
}

/** A grid of them, hardly seen. */
function dots(
  w: number,
  h: number,
  { ground, mark, side, step }: { ground: string; mark: string; side: number; step: number },
): string {
  const marks: string[] = [];
  for (let y = 1.3; y < h; y += step)
    for (let x = 1.7; x < w; x += step) marks.push(rect(x, y, side, side, mark));
  return rect(-4, -4, w + 8, h + 8, ground) + marks.join('');
}

// ---- the families

/** An icon on a shape of its own, and how a tree may tell of it. */
function onShape(
  family: string,
  of: Choice,
  shape: (side: number, fill: string) => string,
  ground: string,
  carrier: string,
): Slot {
  const side = of.between(32, 60);
  const size = side * of.between(0.42, 0.66);
  const margin = of.between(6, 10);
  const inset = margin + (side - size) / 2;
  const [w, h] = [side + 2 * margin, side + 2 * margin];
  const part = icon(of, inset, inset, size, colourOn(of, carrier));
  const label = of.pick(['Add', 'Favourite', 'Close', '']);
  const image: Meaning = { role: 'image', box: [inset, inset, size, size], label };
  const meaning = of.pick<Meaning>([
    { role: 'icon button', box: [margin, margin, side, side], label: 'Add' },
    { role: 'icon button', box: [0, 0, w, h], label: 'Add' },
    { role: 'icon button', box: [margin, margin, side, side], label: 'Add', children: [image] },
    image,
  ]);
  return {
    family,
    width: w,
    height: h,
    layers: [
      rect(-4, -4, w + 8, h + 8, ground),
      `<g transform="translate(${margin.toFixed(2)} ${margin.toFixed(2)})">${shape(side, carrier)}</g>`,
      0,
    ],
    parts: [part],
    meaning: [meaning],
  };
}

const round = (of: Choice) => {
  const corner = of.pick([0.5, 0.5, 0.3, 0.12, 0]);
  return (side: number, fill: string, more = '') =>
    rect(0, 0, side, side, fill, Math.round(side * corner * 10) / 10, more);
};

/** A drawing and a text in one node. */
function withDrawing(
  family: string,
  of: Choice,
  place: 'start' | 'end' | 'top',
  drawn: 'icon' | 'check' | 'radio',
  ground: string,
  shape?: (w: number, h: number) => string,
): Slot {
  const pad = of.between(9, 14);
  const size = of.between(14, 26);
  const gap = of.between(6, 14);
  const drawing = colourOn(of, ground);
  const probe = { sizeDp: Math.round(of.between(11, 20) * 2) / 2, face: of.pick(typefaces) };
  const textAt = place === 'start' ? pad + size + gap : pad;
  let written = write(of, { x: textAt, top: pad, paint: colourOn(of, ground), maxWidth: 200, ...probe });
  const { part: first } = written;
  const again = {
    sizeDp: first.sizeDp,
    face: probe.face,
    weight: first.weight,
    text: first.text,
    paint: first.paint,
  };
  const inner = Math.max(written.height, size);
  const top = place === 'top' ? pad + size + gap : pad + (inner - written.height) / 2;
  written = write(of, { x: place === 'top' ? pad : textAt, top, ...again });
  const width =
    place === 'top' ? Math.max(written.width, size) + 2 * pad : written.width + size + gap + 2 * pad;
  const height = place === 'top' ? top + written.height + pad : inner + 2 * pad;
  const [dx, dy] =
    place === 'top'
      ? [width / 2 - size / 2, pad]
      : [place === 'start' ? pad : width - pad - size, height / 2 - size / 2];
  const part = icon(of, dx, dy, size, drawing);
  const ringed = of.chance(0.5);
  if (drawn === 'check')
    part.ink = (paint) =>
      `<g transform="translate(${dx.toFixed(2)} ${dy.toFixed(2)}) scale(${(size / 24).toFixed(4)})">${GLYPHS[1]!(paint)}</g>`;
  if (drawn === 'radio')
    part.ink = (paint) =>
      `<g transform="translate(${dx.toFixed(2)} ${dy.toFixed(2)}) scale(${(size / 24).toFixed(4)})"><circle cx="12" cy="12" r="9" fill="none" stroke="${paint}" stroke-width="2"/>${ringed ? `<circle cx="12" cy="12" r="4.500" fill="${paint}"/>` : ''}</g>`;
  return {
    family,
    width,
    height,
    layers: [shape ? shape(width, height) : rect(0, 0, width, height, ground), 0, 1],
    parts: [written.part, part],
    meaning: [
      meaningOf(written, 0, 0, {
        role: drawn === 'icon' ? (of.chance(0.5) ? 'button' : 'text') : 'chip',
        box: [0, 0, width, height],
      }),
    ],
  };
}

export const families: Record<string, (of: Choice) => Slot> = {
  flat: (of) => {
    const ground = background(of);
    return onGround('flat', of, (w, h) => rect(0, 0, w, h, ground), { paint: colourOn(of, ground) });
  },
  translucent: (of) => {
    const ground = background(of);
    return onGround('translucent', of, (w, h) => rect(0, 0, w, h, ground), {
      paint: colourOn(of, ground, 12),
      opacity: of.between(0.3, 0.95),
    });
  },
  underlined: (of) => {
    const ground = background(of);
    return onGround('underlined', of, (w, h) => rect(0, 0, w, h, ground), {
      paint: colourOn(of, ground),
      underlined: true,
    });
  },
  gradient: (of) => {
    const [from, to] = [background(of), background(of)];
    const [defs, fill] = gradient(of, from, to);
    return onGround('gradient', of, (w, h) => defs + rect(0, 0, w, h, fill), { paint: colourOn(of, from) });
  },
  'graded button': (of) => {
    const from = background(of);
    const [defs, fill] = gradient(of, from, colourOn(of, from, of.between(1.2, 3)));
    return onGround('graded button', of, (w, h) => defs + rect(0, 0, w, h, fill, Math.min(20, h / 2)), {
      paint: colourOn(of, from),
    });
  },
  'two-tone button': (of) => {
    const [a, b] = [background(of), background(of)];
    const at = of.between(0.3, 0.7);
    return onGround(
      'two-tone button',
      of,
      (w, h) => rect(0, 0, w, h, a) + rect(w * at, 0, w * (1 - at), h, b),
      { paint: colourOn(of, a) },
    );
  },
  button: (of) => {
    const ground = background(of);
    return onGround('button', of, (w, h) => rect(2, 2, w - 4, h - 4, ground, of.pick([4, 8, 20])), {
      paint: colourOn(of, ground),
    });
  },
  outlined: (of) => {
    const ground = background(of);
    return onGround(
      'outlined',
      of,
      (w, h) =>
        rect(0, 0, w, h, ground) +
        rect(
          1,
          1,
          w - 2,
          h - 2,
          'none',
          of.pick([3, 10, 18]),
          `stroke="${colourOn(of, ground)}" stroke-width="${of.pick([1, 2])}"`,
        ),
      { paint: colourOn(of, ground) },
    );
  },
  elevated: (of) => {
    const [ground, card] = [background(of), background(of)];
    return onGround(
      'elevated',
      of,
      (w, h) =>
        rect(-4, -4, w + 8, h + 8, ground) +
        shadowed(of, rect(3, 3, w - 6, h - 6, card, of.pick([4, 10, 16]))),
      { paint: colourOn(of, card) },
    );
  },
  photo: (of) =>
    onGround('photo', of, (w, h) => photo(of, w, h), {
      paint: of.pick(['#ffffff', '#000000', background(of)]),
    }),
  'text on a pattern': (of) => {
    const ground = background(of);
    const mark = colourOn(of, ground, Math.exp(of.between(Math.log(1.1), Math.log(3))));
    return onGround('text on a pattern', of, (w, h) => pattern(of, w, h, ground, mark), {
      paint: colourOn(of, ground),
    });
  },
  'on faint dots': (of) => {
    const ground = background(of);
    const mark = colourOn(of, ground, of.between(1.06, 1.3));
    const [step, side] = [of.between(5, 11), of.between(0.5, 1.2)];
    return onGround('on faint dots', of, (w, h) => dots(w, h, { ground, mark, side, step }), {
      paint: colourOn(of, ground),
    });
  },
  'two colours': (of) => twoColours('two colours', of, () => ({})),
  'two sizes': (of) =>
    twoColours('two sizes', of, ({ sizeDp }) => ({
      sizeDp: Math.max(8, Math.round(sizeDp * of.between(0.65, 0.85) * 2) / 2),
      weight: of.pick([400, 700]),
    })),
  placeholder: (of) => {
    const ground = background(of);
    const written = write(of, { x: 14, top: 12, paint: colourOn(of, ground), sizeDp: of.pick([14, 15, 16]) });
    const [width, height] = [COLUMN_DP - 10, written.height + 24];
    return {
      family: 'placeholder',
      width,
      height,
      layers: [
        rect(0, 0, width, height, ground) +
          rect(1, 1, width - 2, height - 2, 'none', 6, `stroke="${colourOn(of, ground)}" stroke-width="1"`),
        0,
      ],
      parts: [written.part],
      meaning: [
        {
          ...meaningOf(written, 0, 0),
          role: 'field',
          text: '',
          hint: written.part.text,
          box: [0, 0, width, height],
        },
      ],
    };
  },
  icon: (of) => {
    const ground = background(of);
    const size = of.between(16, 44);
    const pad = of.pick([0, 0, 6, 12]);
    const side = size + 2 * pad;
    return {
      family: 'icon',
      width: side,
      height: side,
      layers: [rect(-4, -4, side + 8, side + 8, ground), 0],
      parts: [icon(of, pad, pad, size, colourOn(of, ground), of.chance(0.3) ? of.between(0.4, 0.9) : 1)],
      meaning: [
        {
          role: of.chance(0.6) ? 'icon button' : 'image',
          box: [0, 0, side, side],
          label: of.pick(['Search', 'Back', 'More options']),
        },
      ],
    };
  },
  'icon on a filled shape': (of) => {
    const ground = background(of);
    return onShape(
      'icon on a filled shape',
      of,
      round(of),
      ground,
      colourOn(of, ground, Math.exp(of.between(Math.log(1.05), Math.log(9)))),
    );
  },
  'icon on an outlined shape': (of) => {
    const ground = background(of);
    const line = colourOn(of, ground);
    const shape = round(of);
    return onShape(
      'icon on an outlined shape',
      of,
      (side) => shape(side, ground, `stroke="${line}" stroke-width="${of.pick([1, 1.5, 2])}"`),
      ground,
      ground,
    );
  },
  'icon on a raised shape': (of) => {
    const [ground, carrier] = [background(of), background(of)];
    const shape = round(of);
    return onShape(
      'icon on a raised shape',
      of,
      (side, fill) => shadowed(of, shape(side, fill)),
      ground,
      carrier,
    );
  },
  'icon on a translucent shape': (of) => {
    const [ground, tint] = [background(of), background(of)];
    const opacity = of.between(0.08, 0.6);
    const blend = toHex(
      rgbOf(ground).map((level, c) =>
        Math.round(level + (rgbOf(tint)[c]! - level) * opacity),
      ) as unknown as Rgb,
    );
    const shape = round(of);
    return onShape(
      'icon on a translucent shape',
      of,
      (side) => shape(side, tint, `fill-opacity="${opacity.toFixed(3)}"`),
      ground,
      blend,
    );
  },
  'icon on a pattern': (of) => {
    const ground = background(of);
    const mark = colourOn(of, ground, Math.exp(of.between(Math.log(1.1), Math.log(2.5))));
    const size = of.between(22, 48);
    const side = size + 24;
    return {
      family: 'icon on a pattern',
      width: side,
      height: side,
      layers: [pattern(of, side, side, ground, mark), 0],
      parts: [icon(of, 12, 12, size, colourOn(of, ground))],
      meaning: [{ role: 'image', box: [12, 12, size, size], label: 'Map' }],
    };
  },
  badge: (of) => {
    const ground = background(of);
    const size = of.between(24, 32);
    const part = icon(of, 10, 10, size, colourOn(of, ground));
    const dot = background(of);
    const written = write(of, {
      x: 0,
      top: 0,
      paint: '#000000',
      face: typefaces[0]!,
      text: of.pick(['3', '7', '12', '99+']),
      sizeDp: of.pick([10, 11, 12]),
      weight: 500,
    });
    const [w, h] = [Math.max(written.width + 7, written.height + 2), written.height + 2];
    const [x, y] = [10 + size - w * 0.35, 10 - h * 0.45];
    const text = write(of, {
      x: x + (w - written.width) / 2,
      top: y + 1,
      paint: colourOn(of, dot),
      face: typefaces[0]!,
      text: written.part.text,
      sizeDp: written.part.sizeDp,
      weight: 500,
    });
    const shape = (fill: string) => rect(x, y, w, h, fill, h / 2);
    const [width, height] = [size + 26 + w * 0.4, size + 24];
    return {
      family: 'badge',
      width,
      height,
      layers: [rect(0, 0, width, height, ground), 0, shape(dot), 1],
      parts: [{ ...part, over: shape }, text.part],
      meaning: [
        { role: 'image', box: [10, 10, size, size], label: 'Alerts' },
        meaningOf(text, 0, 0, { box: [x, y, w, h] }),
      ],
    };
  },
  'tab with a pill': (of) => {
    const ground = background(of);
    const pill = colourOn(of, ground, of.between(1.05, 3));
    const [w, size] = [64, 24];
    const written = write(of, { x: 0, top: 0, paint: '#000000', sizeDp: 12, maxWidth: 90 });
    const width = Math.max(80, written.width + 16);
    const label = write(of, {
      x: (width - written.width) / 2,
      top: 50,
      paint: colourOn(of, ground),
      face: typefaces.find(({ texts }) => texts.includes(written.part.text))!,
      text: written.part.text,
      sizeDp: written.part.sizeDp,
      weight: 400,
    });
    return {
      family: 'tab with a pill',
      width,
      height: 78,
      layers: [rect(0, 0, width, 78, ground), rect((width - w) / 2, 10, w, 32, pill, 16), 0, 1],
      parts: [icon(of, (width - size) / 2, 14, size, colourOn(of, pill)), label.part],
      meaning: [
        {
          role: 'row',
          box: [0, 0, width, 78],
          children: [
            { role: 'image', box: [(width - size) / 2, 14, size, size] },
            meaningOf(label, (width - label.width) / 2, 50),
          ],
        },
      ],
    };
  },
  segments: (of) => {
    const ground = background(of);
    const [chosen, line] = [colourOn(of, ground, of.between(1.1, 6)), colourOn(of, ground)];
    const face = typefaces[of.pick([0, 1])]!;
    const [w, h] = [of.between(74, 92), 40];
    const words = ['Day', 'Week', 'Month'];
    const on = Math.floor(of.random() * 3);
    const parts = words.map((text, i) => {
      const fits = lineOf(face, 500, 14, text);
      return write(of, {
        x: i * w + (w - fits.width) / 2,
        top: (h - fits.ascent - fits.descent) / 2,
        paint: colourOn(of, i === on ? chosen : ground),
        face,
        text,
        sizeDp: 14,
        weight: 500,
      });
    });
    return {
      family: 'segments',
      width: 3 * w,
      height: h,
      layers: [
        rect(0, 0, 3 * w, h, ground),
        rect(on * w, 0, w, h, chosen) +
          [1, 2].map((i) => rect(i * w - 0.5, 0, 1, h, line)).join('') +
          rect(0.5, 0.5, 3 * w - 1, h - 1, 'none', 0, `stroke="${line}"`),
        0,
        1,
        2,
      ],
      parts: parts.map(({ part }) => part),
      meaning: parts.map((written, i) => meaningOf(written, 0, 0, { role: 'button', box: [i * w, 0, w, h] })),
    };
  },
  menu: (of) => {
    const [ground, sheet] = [background(of), background(of)];
    const face = of.pick(typefaces);
    const behind = colourOn(of, ground);
    const parts = [0, 1].map((i) =>
      write(of, { x: 26, top: 22 + i * 44, paint: colourOn(of, sheet), face, sizeDp: 16, maxWidth: 150 }),
    );
    const [w, h] = [200, 104];
    return {
      family: 'menu',
      width: w + 20,
      height: h + 16,
      layers: [
        rect(0, 0, w + 20, h + 16, ground) +
          [14, 40, 66, 92].map((y) => rect(4, y, w + 8, 7, behind)).join(''),
        shadowed(of, rect(10, 6, w, h, sheet, 6)),
        0,
        1,
      ],
      parts: parts.map(({ part }) => part),
      meaning: parts.map((written, i) => ({
        role: 'row' as const,
        box: [10, 10 + i * 44, w, 44] as const,
        children: [meaningOf(written, 26, 22 + i * 44)],
      })),
    };
  },
  'leading icon': (of) => withDrawing('leading icon', of, 'start', 'icon', background(of)),
  'trailing icon': (of) => withDrawing('trailing icon', of, 'end', 'icon', background(of)),
  'icon above': (of) => withDrawing('icon above', of, 'top', 'icon', background(of)),
  'chip with a check mark': (of) => {
    const ground = background(of);
    const chip = colourOn(of, ground, of.between(1.05, 4));
    return withDrawing(
      'chip with a check mark',
      of,
      'start',
      'check',
      chip,
      (w, h) =>
        rect(-2, -2, w + 4, h + 4, ground) + rect(1, 1, w - 2, h - 2, chip, of.pick([8, Math.floor(h / 2)])),
    );
  },
  radio: (of) => withDrawing('radio', of, 'start', 'radio', background(of)),
  'two lines in a row': (of) => {
    const ground = background(of);
    const face = of.pick(typefaces);
    const title = write(of, { x: 16, top: 10, paint: colourOn(of, ground), face, sizeDp: 16, maxWidth: 230 });
    const more = write(of, {
      x: 16,
      top: 14 + title.height,
      paint: colourOn(of, ground),
      face,
      sizeDp: 14,
      maxWidth: 230,
    });
    const [width, height] = [COLUMN_DP - 6, title.height + more.height + 24];
    return {
      family: 'two lines in a row',
      width,
      height,
      layers: [rect(0, 0, width, height, ground), 0, 1],
      parts: [title.part, more.part],
      meaning: [
        {
          role: 'row',
          box: [0, 0, width, height],
          children: [meaningOf(title, 16, 10), meaningOf(more, 16, 14 + title.height)],
        },
      ],
    };
  },
};
