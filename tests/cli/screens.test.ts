/** Captures as people hand them in, and the calculators on them, through the built command. */
import { copyFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { contrastRatio } from '../../src/core/areas/contrast/colour.ts';
import { measureText } from '../../src/core/areas/contrast/pixels/measure-text.ts';
import type { UiNode } from '../../src/core/model/ui-tree.ts';
import { decodeImage } from '../../src/node/decode-image.ts';
import { fenlok } from '../support/command.ts';
import { box, canvas } from '../support/facts.ts';
import { demoApk, scratchFolder } from '../support/paths.ts';

const folder = scratchFolder();

/** Bars like the stems of letters, of 6.6 to 1. */
function letters() {
  const pixels = canvas(120, 40, [250, 250, 250]);
  for (let x = 10; x < 110; x += 9) pixels.fill(box([x, 10, 4, 20]), [80, 90, 100]);
  return sharp(pixels.data, { raw: { width: 120, height: 40, channels: 4 } });
}

test.each<[string, () => Promise<Buffer>, number]>([
  ['PNG with a palette', () => letters().png({ palette: true }).toBuffer(), 0.01],
  ['interlaced PNG', () => letters().png({ progressive: true }).toBuffer(), 0.01],
  ['16-bit PNG', () => letters().toColourspace('rgb16').png().toBuffer(), 0.01],
  ['grey PNG', () => letters().greyscale().png().toBuffer(), 0.03],
  ['JPEG', () => letters().jpeg({ quality: 95 }).toBuffer(), 0.1],
  ['WebP', () => letters().webp({ quality: 95 }).toBuffer(), 0.1],
])('%s is measured as the same text', async (name, write, within) => {
  const pixels = await decodeImage(name, await write());
  const seen = measureText(pixels, box([0, 0, 120, 40]), []);
  if (typeof seen === 'string') throw new Error(seen);
  const truth = contrastRatio([80, 90, 100], [250, 250, 250]);
  expect(Math.abs(seen.ratio / truth - 1)).toBeLessThan(within);
  // grey has another colour of nearly the same luminance
  if (name !== 'grey PNG')
    expect([seen.interval[0] <= truth, seen.interval[1] >= truth]).toEqual([true, true]);
});

test('over a picture the worst place is named, and what lies too near to a limit is not decided', async () => {
  const pixels = canvas(400, 60, [0, 0, 0]);
  for (let y = 0; y < 60; y++)
    for (let x = 0; x < 400; x++) {
      const level = (x < 250 ? 30 : 118) + ((x * 31 + y * 17 + x * y) % 9) - 4;
      pixels.fill(box([x, y, 1, 1]), [level, level, level]);
    }
  for (let x = 20; x < 380; x += 12) pixels.fill(box([x, 18, 3, 24]), [255, 255, 255]);
  await sharp(pixels.data, { raw: { width: 400, height: 60, channels: 4 } }).toFile(join(folder, 'p.png'));
  const call = ['try', 'contrast', '--picture', 'p.png', '--box', '0,0,400,60'];
  const said = (await fenlok(call, folder)).out;
  expect(said).toMatch(
    /^4\.\d\d : 1 {2}\(between 3\.\d\d and 4\.\d\d\) {2}text #ffffff on #7\d7\d7\d\n {2}at the worst place of a picture; on average over the text 1\d\.\d\d : 1\n/,
  );
  expect(said.match(/passes|fails|unsure/g)).toEqual(['unsure', 'passes', 'fails']);
  expect(JSON.parse((await fenlok([...call, '--json'], folder)).out)).toMatchObject({
    behind: 'picture',
    passes: { text: false, largeText: true, enhanced: false },
  });
});

test('a palette is mended by the fewest changes, and a colour that is not there is named', async () => {
  const palette = (pairs: string) =>
    `colours: { a: '#8a8a8a', b: '#909090', c: '#888f8a', page: '#5a5a5a' }\npairs: ${pairs}\n`;
  writeFileSync(join(folder, 'theme.yaml'), palette('[[a, page], [b, page], [c, page, 3]]'));
  const run = await fenlok(['try', 'contrast', '--palette', 'theme.yaml'], folder);
  expect(run.out).toMatch(
    /^3 of 3 pairs fail\n {2}▲ \d\.\d\d : 1 [\s\S]*Change one colour[\s\S]*page {2}#5a5a5a → #[0-9a-f]{6}/,
  );
  writeFileSync(join(folder, 'theme.yaml'), palette('[[a, sea]]'));
  const bad = await fenlok(['try', 'contrast', '--palette', 'theme.yaml'], folder);
  expect([bad.code, bad.err]).toEqual([
    3,
    expect.stringMatching(/theme\.yaml.*"sea", which is none of a, b, c, page/),
  ]);
});

describe('a capture that a UI test wrote', () => {
  const node = (bounds: [number, number, number, number], of: object, ...children: object[]) => ({
    bounds: box(bounds),
    ...of,
    children,
  });
  const tree = node(
    [0, 0, 300, 400],
    { className: 'UIView' },
    node([10, 10, 200, 40], { className: 'UILabel', text: 'Crossings', heading: true, traits: ['heading'] }),
    node([10, 60, 100, 100], {
      className: 'UIButton',
      id: 'map',
      label: 'Map',
      clickable: true,
      traits: ['button', 'link'],
    }),
    node([120, 60, 100, 100], { className: 'UIButton', id: 'bare', clickable: true, traits: ['button'] }),
  );
  const capture = (of: object = {}) => ({
    fenlok: 'capture/1',
    platform: 'ios',
    cell: { screen: 'home', locale: 'en', theme: 'light' },
    densityDpi: 160,
    picture: 'home.png',
    carries: ['traits', 'headings'],
    tree: tree as unknown as UiNode,
    ...of,
  });

  beforeAll(async () => {
    copyFileSync(demoApk, join(folder, 'app.apk'));
    await sharp({ create: { width: 300, height: 400, channels: 3, background: '#fff' } })
      .png()
      .toFile(join(folder, 'home.png'));
    writeFileSync(join(folder, 'home.json'), JSON.stringify(capture()));
    expect((await fenlok(['add', 'app.apk', 'home.json'], folder)).code).toBe(0);
  });

  test('is walked by stops, headings and controls, from its file and from the dossier', async () => {
    const walk = async (...args: string[]) =>
      JSON.parse((await fenlok(['try', 'stops', ...args, '--json'], folder)).out);
    const all = await walk('home.json');
    expect(all.stops.map(({ spoken }: { spoken: string[] }) => spoken)).toEqual([
      ['Crossings', 'heading'],
      ['Map', 'link'],
      ['button'],
    ]);
    expect((await walk('home')).stops).toEqual(all.stops);
    expect((await walk('home', '--by', 'headings')).stops).toHaveLength(1);
    const said = (await fenlok(['try', 'stops', 'home', '--by', 'controls'], folder)).out;
    expect(said).toMatch(/2 controls of 3 stops[\s\S]*Map · link[\s\S]*▲ nothing to say/);
  });

  test('is scanned with two switches', async () => {
    const run = await fenlok(
      ['try', 'presses', 'home', '--pattern', 'rows', '--seconds', '0.5', '--json'],
      folder,
    );
    expect(JSON.parse(run.out).controls).toEqual([
      { key: 'map', name: 'Map', row: 1, presses: 3, seconds: 1.5 },
      { key: 'bare', name: '', row: 1, presses: 4, seconds: 2 },
    ]);
  });

  test.each<[string, string[], number, RegExp]>([
    [
      'a screen that is not there',
      ['try', 'stops', 'harbour'],
      3,
      /no capture of "harbour"; expected a file, or one of home/,
    ],
    [
      'a language that is not there',
      ['try', 'stops', 'home', '--locale', 'de'],
      3,
      /no capture of "home" in de/,
    ],
    [
      'a way to walk that is not there',
      ['try', 'stops', 'home', '--by', 'links'],
      2,
      /"links" is none of all, headings, controls/,
    ],
    ['no time at all', ['try', 'presses', 'home', '--seconds', '0'], 2, /"0" is not a number above 0/],
    [
      'bounds turned inside out',
      ['add', 'negative.json'],
      3,
      /negative\.json.*tree\.children\.0\.bounds\.width/s,
    ],
    ['a trait that nobody has', ['add', 'trait.json'], 3, /trait\.json.*traits\.0/s],
    [
      'a picture of another size',
      ['add', 'size.json'],
      3,
      /300 × 400 px beside a tree that reaches to 900 × 1200 px/,
    ],
  ])('%s: a clear message', async (_, args, code, message) => {
    const with0 = (of: object) => ({ ...tree, children: [{ ...tree.children[0], ...of }] });
    writeFileSync(
      join(folder, 'negative.json'),
      JSON.stringify(capture({ tree: with0({ bounds: { x: 0, y: 0, width: -4, height: 2 } }) })),
    );
    writeFileSync(join(folder, 'trait.json'), JSON.stringify(capture({ tree: with0({ traits: ['knob'] }) })));
    writeFileSync(join(folder, 'size.json'), JSON.stringify(capture({ tree: node([0, 0, 900, 1200], {}) })));
    const run = await fenlok(args, folder);
    expect([run.code, run.err]).toEqual([code, expect.stringMatching(message)]);
    expect(run.err).not.toMatch(/\n\s+at /);
  });
});
