/** Drawings in which something else may pass for the text or the icon: each was measured as such once. */
import { contrastRatio, parseHex } from '../../../src/core/areas/contrast/colour.ts';
import { measurePicture } from '../../../src/core/areas/contrast/pixels/measure-picture.ts';
import { measureText } from '../../../src/core/areas/contrast/pixels/measure-text.ts';
import { phonePainter } from '../../support/sheets/painters.ts';

const [WIDTH, HEIGHT] = [420, 140];
const paint = (drawn: string) =>
  phonePainter(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${HEIGHT}">${drawn}</svg>`,
    WIDTH,
    HEIGHT,
  );
const ratio = (a: string, b: string): number => contrastRatio(parseHex(a)!, parseHex(b)!);

const rect = (x: number, y: number, width: number, height: number, fill: string): string =>
  `<rect x="${x}" y="${y}" width="${width}" height="${height}" fill="${fill}"/>`;
/** @param at where the first of them lies, as a share of a step */
const circles = (fill: string, of: { step: number; radius: number }, at = 0): string => {
  const drawn: string[] = [];
  for (let y = of.step * at; y < HEIGHT + of.radius; y += of.step)
    for (let x = of.step * ((at * 3) % 1); x < WIDTH + of.radius; x += of.step)
      drawn.push(`<circle cx="${x}" cy="${y}" r="${of.radius}" fill="${fill}"/>`);
  return drawn.join('');
};
const write = (text: string, fill: string, of: { size: number; face?: string; weight?: number }): string =>
  `<text x="30" y="95" font-family="${of.face ?? 'Roboto'}" font-size="${of.size}" font-weight="${of.weight ?? 400}" fill="${fill}">${text}</text>`;

// What is strewn behind is moved, by shares of its step, so that it hangs together with other letters.
const PLACES = [0, 0.13, 0.29, 0.41, 0.53, 0.67, 0.78, 0.9];

// the picture, and between which ratios the truth of its worst stretch lies
test.each<[name: string, text: string, drawn: (at: number) => string, least: number, most: number]>([
  [
    'dots that hang together with letters',
    'From 42 kr',
    (at) =>
      rect(0, 0, WIDTH, HEIGHT, '#7c2a97') +
      circles('#c023be', { step: 31, radius: 11 }, at) +
      write('From 42 kr', '#dbdbdb', { size: 70 }),
    ratio('#dbdbdb', '#c023be'),
    ratio('#dbdbdb', '#7c2a97'),
  ],
  [
    'the same, where the box ends between two pixels and its rim is as dark as the letters',
    'Total 1.250,00',
    (at) =>
      rect(0, 0, WIDTH, HEIGHT, '#141218') +
      rect(0.4, 0.4, WIDTH - 0.8, HEIGHT - 0.8, '#a871ab') +
      circles('#cccccc', { step: 38, radius: 12 }, at) +
      write('Total 1.250,00', '#000000', { size: 56, face: 'Inter', weight: 300 }),
    ratio('#000000', '#a871ab'),
    ratio('#000000', '#cccccc'),
  ],
])('text: %s', async (_, text, drawn, least, most) => {
  const told: number[] = [];
  for (const at of PLACES) {
    const seen = measureText(await paint(drawn(at)), { x: 0, y: 0, width: WIDTH, height: HEIGHT }, [], text);
    if (typeof seen !== 'string' && !seen.doubtful) told.push(seen.ratio);
  }
  expect(told.filter((of) => of < least || of > most)).toEqual([]);
  expect(told.length).toBeGreaterThan(PLACES.length / 2);
});

const STAR = 'M70 42l8 17 18 2-13 13 3 18-16-9-16 9 3-18-13-13 18-2z';

test.each<[name: string, drawn: (at: number) => string, least: number, most: number]>([
  [
    'a glyph of a grey between those of its shape and of the screen',
    () =>
      rect(0, 0, WIDTH, HEIGHT, '#121212') +
      '<rect x="30" y="28" width="80" height="80" rx="9" fill="#a1a1a1"/>' +
      `<path d="${STAR}" fill="#545454"/>`,
    ratio('#545454', '#a1a1a1') * 0.99,
    ratio('#545454', '#a1a1a1') * 1.01,
  ],
  [
    'dots over which three others are drawn',
    (at) =>
      rect(0, 0, WIDTH, HEIGHT, '#c8d229') +
      circles('#20b0f3', { step: 20, radius: 4 }, at) +
      [50, 70, 90].map((y) => `<circle cx="70" cy="${y}" r="6" fill="#4f4031"/>`).join(''),
    ratio('#4f4031', '#20b0f3'),
    ratio('#4f4031', '#c8d229'),
  ],
  [
    'bars across stripes: half of the width of all of them is a stretch',
    (at) =>
      Array.from({ length: 14 }, (_, i) =>
        rect(0, (i - at) * 11, WIDTH, 11, i % 2 ? '#0ab1e0' : '#f4f0ea'),
      ).join('') +
      [48, 68, 88].map((y) => `<rect x="38" y="${y}" width="64" height="8" rx="4" fill="#636363"/>`).join(''),
    ratio('#636363', '#0ab1e0') * 1.2,
    ratio('#636363', '#f4f0ea'),
  ],
])('icon: %s', async (_, drawn, least, most) => {
  const told: number[] = [];
  for (const at of PLACES) {
    const seen = measurePicture(await paint(drawn(at)), { x: 20, y: 20, width: 100, height: 100 }, []);
    if (typeof seen !== 'string' && !seen.doubtful) told.push(seen.ratio);
  }
  expect(told.filter((of) => of < least || of > most)).toEqual([]);
  expect(told.length).toBeGreaterThan(PLACES.length / 2);
});
