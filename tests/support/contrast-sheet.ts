/**
 * Sheets of texts and icons whose colours are known, laid out and drawn by a browser. What is true of an element is worked
 * out from its style and from the same sheet drawn without its writing; nothing of the measuring is used.
 */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Browser, Page } from 'playwright-core';
import sharp from 'sharp';
import { contrastRatio, parseHex, type Rgb, toHex } from '../../src/core/areas/contrast/colour.ts';
import type { Pixels } from '../../src/core/model/ports.ts';

export type SheetKind =
  | 'flat'
  | 'alpha'
  | 'gradient'
  | 'photo'
  | 'button'
  | 'outlined'
  | 'underlined'
  | 'with icon'
  | 'two colours'
  | 'placeholder'
  | 'overlapped'
  | 'icon';

export interface SheetElement {
  kind: SheetKind;
  text: string;
  family: string;
  script: string;
  sizeDp: number;
  weight: number;
  box: { x: number; y: number; width: number; height: number };
  cover?: { x: number; y: number; width: number; height: number };
  /** Of the worst span, at the worst place. */
  ratio: number;
  foreground: string;
}

export interface Sheet {
  dpr: number;
  pixels: Pixels;
  elements: SheetElement[];
}

export interface Family {
  name: string;
  script: string;
  weights: readonly number[];
  /** Path of the font file, as `require.resolve` takes it, or absolute. */
  file: string;
  texts: readonly string[];
}

interface Planned {
  kind: SheetKind;
  text: string;
  family: Family;
  sizeDp: number;
  weight: number;
  colours: string[];
  background: string;
  second: string;
  opacity: number;
  angle: number;
}

const require = createRequire(import.meta.url);
// globals are slow to reach in a test's own context
const { abs, min, max } = Math;

/** Repeatable numbers from 0 to 1. */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

const KINDS: readonly (readonly [SheetKind, number])[] = [
  ['flat', 14],
  ['alpha', 3],
  ['gradient', 4],
  ['photo', 3],
  ['button', 3],
  ['outlined', 2],
  ['underlined', 2],
  ['with icon', 3],
  ['two colours', 2],
  ['placeholder', 2],
  ['overlapped', 2],
  ['icon', 4],
];
const DPRS = [2, 2.625, 3, 3.5];
const WIDTH_DP = 400;

/** Draws as many sheets as hold so many elements. */
export async function drawSheets(
  browser: Browser,
  { count, families, seed }: { count: number; families: readonly Family[]; seed: number },
): Promise<Sheet[]> {
  const random = seeded(seed);
  const sheets: Sheet[] = [];
  const all = Array.from({ length: Math.ceil(count / 16) }, () =>
    Array.from({ length: 16 }, () => plan(random, families)),
  );
  // two at once: one is drawn while the other is looked at
  const lanes = [0, 1].map(async (lane) => {
    for (let i = lane; i < all.length; i += 2)
      sheets[i] = await drawSheet(browser, DPRS[i % DPRS.length]!, all[i]!);
  });
  await Promise.all(lanes);
  return sheets;
}

function plan(random: () => number, families: readonly Family[]): Planned {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const all = KINDS.flatMap(([kind, share]) => Array<SheetKind>(share).fill(kind));
  const family = pick(families);
  // evenly over the logarithm of the ratio, so that there are as many from 1 to 3 as from 7 to 21
  const [foreground, background] = pairOf(random, Math.exp(random() * Math.log(20)));
  return {
    kind: pick(all),
    text: pick(family.texts),
    family,
    sizeDp: Math.round((9 + random() * 31) * 2) / 2,
    weight: pick(family.weights),
    colours: [foreground, pairOf(random, 1 + random() * 12)[0]],
    background,
    second: pairOf(random, 4)[0],
    opacity: 0.35 + random() * 0.6,
    angle: Math.floor(random() * 4) * 90,
  };
}

/** Two colours of about that ratio, of any hue. */
function pairOf(random: () => number, ratio: number): [string, string] {
  const any = (): Rgb => [0, 1, 2].map(() => Math.floor(random() * 256)) as unknown as Rgb;
  let best: [Rgb, Rgb] = [any(), any()];
  for (let i = 0; i < 300; i++) {
    const pair: [Rgb, Rgb] = [
      any(),
      random() < 0.3 ? (random() < 0.5 ? [255, 255, 255] : [18, 18, 18]) : any(),
    ];
    if (
      Math.abs(Math.log(contrastRatio(...pair) / ratio)) < Math.abs(Math.log(contrastRatio(...best) / ratio))
    )
      best = pair;
  }
  return [toHex(best[0]), toHex(best[1])];
}

async function drawSheet(browser: Browser, dpr: number, planned: readonly Planned[]): Promise<Sheet> {
  const page = await browser.newPage({ viewport: { width: WIDTH_DP, height: 400 }, deviceScaleFactor: dpr });
  try {
    const families = [...new Set(planned.map(({ family }) => family))];
    await page.setContent(
      `<style>${families.map(fontFace).join('')}${SHEET_CSS}</style>${planned.map(htmlOf).join('\n')}`,
    );
    await page.evaluate(paintPhotos);
    await page.evaluate(() => document.fonts.ready);
    const boxes = await page.evaluate(readBoxes, dpr);
    const written = await shoot(page);
    await page.addStyleTag({ content: BLANK_CSS });
    const blank = await shoot(page);
    return {
      dpr,
      pixels: written,
      elements: planned.map((element, i) => truthOf(element, boxes[i]!, { dpr, written, blank })),
    };
  } finally {
    await page.close();
  }
}

const fontFace = ({ file, name }: Family): string => {
  const path = file.startsWith('/') ? file : require.resolve(file);
  return `@font-face{font-family:"${name}";font-weight:100 900;src:url(data:font/any;base64,${readFileSync(path).toString('base64')})}`;
};

const SHEET_CSS = `body{margin:0;padding:8px 13.3px;background:#fff}.e{position:relative;display:block;width:fit-content;max-width:370px;margin:7.3px 0;line-height:1.4}
  .pad{padding:6px 10px}.r{border-radius:14px}.i{display:inline-block;width:1.25em;height:1.25em;margin-inline-end:.55em;vertical-align:-.2em}
  .field{box-sizing:border-box;width:300px;border:1px solid #888;padding:8px;background:none}.cover{position:absolute;right:0;top:0;width:30%;height:100%;background:#604020}`;
// the same sheet without its writing
const BLANK_CSS =
  '.w,.w *{color:transparent!important;text-decoration-color:transparent!important}.w.ic svg *{fill:transparent!important}input.w::placeholder{color:transparent!important}';

function htmlOf({
  angle,
  background,
  colours,
  family,
  kind,
  opacity,
  second,
  sizeDp,
  text,
  weight,
}: Planned): string {
  const [colour, other] = colours as [string, string];
  const font = `font-family:'${family.name}';font-size:${sizeDp}px;font-weight:${weight};`;
  const dir = family.script === 'Arabic' || family.script === 'Hebrew' ? ' dir="rtl"' : '';
  const plain = (style: string, inside = text, classes = 'pad') =>
    `<div class="e w ${classes}"${dir} style="${font}color:${colour};background:${background};${style}">${inside}</div>`;
  switch (kind) {
    case 'flat':
      return plain('');
    case 'alpha': {
      const [r, g, b] = parseHex(colour)!;
      return plain(`color:rgba(${r},${g},${b},${opacity.toFixed(3)})`);
    }
    case 'gradient':
      return plain(`background:linear-gradient(${angle}deg,${background},${second})`);
    case 'photo':
      return plain('', text, 'pad photo');
    case 'button':
      return `<div class="e" style="padding:9px 12px;background:#fff" data-e>${plain('', text, 'pad r').replace('class="e w', 'class="w')}</div>`;
    case 'outlined':
      return plain(`border:2px solid ${other};`, text, 'pad r');
    case 'underlined':
      return plain('text-decoration:underline');
    case 'with icon':
      return plain(
        '',
        `<svg class="i" viewBox="0 0 24 24"><path d="M3 3h18v18H3z M8 8h8v8H8z" fill-rule="evenodd" fill="${other}"/></svg>${text}`,
      );
    case 'two colours':
      return plain('', `${text} <span style="color:${other}">${text}</span>`);
    case 'placeholder':
      return `<style>.p${sizeDp * 2}${colour.slice(1)}::placeholder{color:${colour};opacity:1}</style><input class="e w field p${sizeDp * 2}${colour.slice(1)}"${dir} style="${font}background:${background};width:370px" placeholder="${text}">`;
    case 'overlapped':
      return plain('', `${text}<i class="cover"></i>`, 'pad');
    case 'icon':
      return `<div class="e w ic pad" style="background:${background};font-size:${12 + sizeDp}px;line-height:0"><svg width="1em" height="1em" viewBox="0 0 24 24"><path fill="${colour}" d="${ICONS[Math.floor(sizeDp) % ICONS.length]}"/></svg></div>`;
  }
}

const ICONS = [
  'M12 2l9 18H3z',
  'M4 11h12l-5-5 1.5-1.5L20 12l-7.500 7.500L11 18l5-5H4z',
  'M12 3a9 9 0 1 0 .01 0zM12 5a7 7 0 1 1-.01 0z M11 7h2v6h-2z M11 15h2v2h-2z',
  'M5 4h2v16H5z M11 8h2v12h-2z M17 12h2v8h-2z',
];

/** Runs in the page: something like a photo behind each that wants one. */
function paintPhotos(): void {
  for (const [n, element] of [...document.querySelectorAll<HTMLElement>('.photo')].entries()) {
    const { height, width } = element.getBoundingClientRect();
    const scale = window.devicePixelRatio;
    const canvas = document.createElement('canvas');
    canvas.width = Math.ceil(width * scale);
    canvas.height = Math.ceil(height * scale);
    const context = canvas.getContext('2d')!;
    const image = context.createImageData(canvas.width, canvas.height);
    let state = n * 7919 + 17;
    for (let y = 0; y < canvas.height; y++)
      for (let x = 0; x < canvas.width; x++) {
        state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
        const grain = ((state >>> 16) & 15) - 8;
        const wave = Math.sin(x / 37 + n) * 40 + Math.sin(y / 23 + x / 91) * 35;
        const base = 90 + ((n * 61) % 110);
        image.data.set(
          [base + wave + grain, base + wave * 0.7 + grain + 12, base - wave * 0.4 + grain, 255],
          (y * canvas.width + x) * 4,
        );
      }
    context.putImageData(image, 0, 0);
    element.style.background = `url(${canvas.toDataURL()}) 0 0/100% 100%`;
  }
}

interface Rect {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Runs in the page: the boxes that a tree of the screen would name, in pixels, and those of each run of writing. */
function readBoxes(dpr: number): { box: Rect; cover?: Rect; runs: Rect[] }[] {
  const rect = (of: DOMRect) => ({
    x: Math.round(of.x * dpr),
    y: Math.round(of.y * dpr),
    width: Math.round(of.width * dpr),
    height: Math.round(of.height * dpr),
  });
  return [...document.querySelectorAll('.e')].map((element) => {
    const writing = element.matches('.w') ? element : element.querySelector('.w')!;
    const runs = [...writing.childNodes, ...writing.querySelectorAll('span')]
      .filter((node) => node.nodeType === 3 || node.nodeName === 'SPAN')
      .map((node) => {
        const range = document.createRange();
        range.selectNodeContents(node);
        return rect(range.getBoundingClientRect());
      });
    const cover = element.querySelector('.cover');
    return {
      box: rect((element.matches('.ic') ? element.querySelector('svg')! : element).getBoundingClientRect()),
      ...(cover && { cover: rect(cover.getBoundingClientRect()) }),
      runs,
    };
  });
}

async function shoot(page: Page): Promise<Pixels> {
  const { data, info } = await sharp(await page.screenshot({ fullPage: true }))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { widthPx: info.width, heightPx: info.height, data };
}

/** The ratio of each run against what lies under its glyphs, at the worst place, and of the runs the worst. */
function truthOf(
  { colours, family, kind, opacity, sizeDp, text, weight }: Planned,
  { box, cover, runs }: { box: Rect; cover?: Rect; runs: Rect[] },
  { blank, dpr, written }: { dpr: number; written: Pixels; blank: Pixels },
): SheetElement {
  const parts = kind === 'two colours' ? [runs[0]!, runs.at(-1)!] : [box];
  const ratios = parts.map((part, i) => {
    const foreground = parseHex(colours[kind === 'two colours' ? i : 0]!)!;
    const under: { at: number; rgb: Rgb }[] = [];
    const bottom = min(part.y + part.height, box.y + box.height);
    for (let y = max(part.y, box.y); y < bottom; y++)
      for (let x = part.x; x < part.x + part.width; x++) {
        if (cover && x >= cover.x) continue;
        const at = (y * blank.widthPx + x) * 4;
        const behind: Rgb = [blank.data[at]!, blank.data[at + 1]!, blank.data[at + 2]!];
        const differs =
          abs(written.data[at]! - behind[0]) > 2 ||
          abs(written.data[at + 1]! - behind[1]) > 2 ||
          abs(written.data[at + 2]! - behind[2]) > 2;
        if (differs) under.push({ at: x, rgb: behind });
      }
    const ratioOn = (behind: Rgb) =>
      contrastRatio(
        kind === 'alpha'
          ? ([0, 1, 2].map((c) =>
              Math.round(behind[c]! + (foreground[c]! - behind[c]!) * opacity),
            ) as unknown as Rgb)
          : foreground,
        behind,
      );
    if (kind === 'photo') return worstStretch(under, sizeDp * dpr, ratioOn);
    const step = Math.ceil(under.length / 3000);
    const sorted = under
      .filter((_, n) => n % step === 0)
      .map(({ rgb }) => ratioOn(rgb))
      .sort((a, b) => a - b);
    return sorted[Math.floor(sorted.length * 0.02)] ?? 1;
  });
  const worst = Math.min(...ratios);
  return {
    kind,
    text: kind === 'two colours' ? `${text} ${text}` : kind === 'icon' ? '' : text,
    family: family.name,
    script: family.script,
    sizeDp,
    weight,
    box,
    ...(cover && { cover }),
    ratio: worst,
    foreground: colours[ratios.indexOf(worst)] ?? colours[0]!,
  };
}

/** Of all stretches of that length with a fair amount of writing in them, the one whose average contrasts least. */
function worstStretch(
  under: { at: number; rgb: Rgb }[],
  lengthPx: number,
  ratioOn: (behind: Rgb) => number,
): number {
  const columns = new Map<number, [count: number, ...Rgb]>();
  for (const { at, rgb } of under) {
    const [count, ...sum] = columns.get(at) ?? [0, 0, 0, 0];
    columns.set(at, [count + 1, sum[0]! + rgb[0], sum[1]! + rgb[1], sum[2]! + rgb[2]]);
  }
  const places = [...columns.keys()];
  const stretches: [count: number, ...Rgb][] = [];
  for (let from = min(...places); from <= max(...places); from++) {
    const sum: [number, ...Rgb] = [0, 0, 0, 0];
    for (let at = from; at < from + lengthPx; at++)
      for (const [part, value] of (columns.get(at) ?? []).entries()) sum[part]! += value;
    stretches.push(sum);
  }
  const fullest = max(...stretches.map(([count]) => count));
  return min(
    ...stretches
      .filter(([count]) => count >= fullest / 4)
      .map(([count, r, g, b]) => ratioOn([r / count, g / count, b / count])),
  );
}
