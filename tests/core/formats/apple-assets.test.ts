/**
 * Compiled asset catalogues and interface files, on those that Apple's own tools made for frameworks of vendors. There is no
 * second reader of either format: what was read was looked at by eye, and what files say twice is compared.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import fc from 'fast-check';
import { assetCatalogue, interfaceFile } from '../../../demo/kelpline/apple-files.mjs';
import { sourceFolder } from '../../../scripts/corpora.mjs';
import { readAssetCatalogue } from '../../../src/core/formats/apple/asset-catalogue.ts';
import { viewsOf } from '../../../src/core/formats/apple/interface-views.ts';
import { readNibArchive } from '../../../src/core/formats/apple/nib-archive.ts';

const corpora = ['assets-2017', 'assets-2023', 'assets-2024'].map((name) => sourceFolder(name));
const testOnCorpora = corpora.includes(undefined) ? test.skip : test;

const filesEnding = (suffix: string): string[] =>
  corpora.flatMap((folder) =>
    readdirSync(folder!, { recursive: true, encoding: 'utf8' })
      .filter((name) => name.endsWith(suffix) && !name.includes('simulator'))
      .map((name) => join(folder!, name)),
  );

testOnCorpora('pictures of vendors: names, scales and sizes', () => {
  const catalogues = filesEnding('.car').map((file) => readAssetCatalogue(readFileSync(file), file));
  const names = catalogues.map(({ pictures }) => new Set(pictures.map(({ name }) => name)).size);
  expect(names).toEqual([8, 17, 3]);
  for (const { pictures } of catalogues) {
    for (const { name, scale, source } of pictures) {
      // the file that it was made from says its scale, too
      expect([name, scale]).toEqual([name, Number(/@(\d)x\./.exec(source)?.[1] ?? 1)]);
      const [one, many] = [1, scale].map((of) =>
        pictures.find((other) => other.name === name && other.scale === of),
      );
      expect([many!.widthPx, many!.heightPx]).toEqual([one!.widthPx * scale, one!.heightPx * scale]);
    }
  }
  const all = catalogues.flatMap(({ pictures }) => pictures);
  const sizeOf = (name: string, scale: number) => {
    const { heightPx, widthPx } = all.find((of) => of.name === name && of.scale === scale)!;
    return `${widthPx} × ${heightPx}`;
  };
  expect(sizeOf('810-document-2-selected', 3)).toBe('60 × 84');
  expect(sizeOf('Razorpay_Logo', 1)).toBe('1024 × 1024');
  // it lies on a sheet with others
  expect(sizeOf('check_mark', 1)).toBe('24 × 24');
});

testOnCorpora('texts and names in interface files of vendors', () => {
  const said = filesEnding('.nib').flatMap((file) =>
    viewsOf(readNibArchive(readFileSync(file), file), basename(file, '.nib')).map(
      ({ fixedTexts, isNamed, layout, view }) =>
        [layout, view, isNamed ? '' : 'unnamed', ...fixedTexts.map(({ part, text }) => `${part}: ${text}`)]
          .filter(Boolean)
          .join(' | '),
    ),
  );
  expect(said.length).toBeGreaterThan(60);
  for (const line of [
    'vXZ-lx-hvc-view-kh9-bI-dsS | UIButton 3 | text: Scan',
    'vXZ-lx-hvc-view-kh9-bI-dsS | UIButton 5 | unnamed',
    'l2Q-cc-kD8-view-UUy-6c-meu | UILabel 1 | text: Prepare To Scan\nYour ID Document',
    'l2Q-cc-kD8-view-UUy-6c-meu | ZoomCancelButton | description: Cancel',
    'alz-Ia-X3d-view-IKu-EI-Hug | UILabel 1 | description: Zoom Logo',
    'ReadyScreenGuidanceContentLayout | UILabel 2 | text: Your Video Selfie!',
    'GenericGuidanceContentLayout | UIImageView 1 | description: Zoom Logo',
  ])
    expect(said).toContain(line);
});

test('colours by day and by night, in the spaces that colours come in', () => {
  const bytes = assetCatalogue(
    [],
    [
      { name: 'Ink', rgb: [0, 0, 0] },
      { name: 'Ink', dark: true, rgb: [1, 0.5, 0] },
    ],
  );
  const of = (space: number) => {
    const changed = Buffer.from(bytes);
    for (let at = changed.indexOf('RLOC'); at >= 0; at = changed.indexOf('RLOC', at + 1))
      changed.writeUInt32LE(space, at + 8);
    return readAssetCatalogue(changed, 'x').colours.map(
      ({ appearance, argb, name }) => `${name} ${appearance} ${argb.toString(16)}`,
    );
  };
  expect(of(1)).toEqual(['Ink any ff000000', 'Ink dark ffff8000']);
  // 1, 0.5, 0 of Display P3 lies outside of sRGB in red and blue
  expect(of(3)).toEqual(['Ink any ff000000', 'Ink dark ffff7600']);
  expect(of(9)).toEqual([]);
});

test('what is named is not unnamed, and what a table can change is not fixed', () => {
  const said = (objects: Parameters<typeof interfaceFile>[0]) =>
    viewsOf(readNibArchive(interfaceFile(objects), 'x'), 'x').map(
      ({ fixedTexts, isNamed, view }) => `${view} ${isNamed} ${fixedTexts.map(({ text }) => text)}`,
    );
  const ref = (object: number) => ({ object });
  expect(
    said([
      ['UIButton', { UIButtonStatefulContent: ref(2) }],
      ['UIBarButtonItem', { UITitle: ref(4) }],
      ['NSDictionary', { UINibEncoderEmptyKey: ref(3) }],
      ['UIButtonContent', { UITitle: ref(4) }],
      ['NSLocalizableString', { 'NS.bytes': 'Done' }],
      ['UITextField', { UIPlaceholder: ref(6) }],
      ['NSString', { 'NS.bytes': 'Your name' }],
      ['UITextField', {}],
      ['UILabel', { UIText: ref(9) }],
      ['NSString', { 'NS.bytes': 'Label' }],
      ['UIClassSwapper', { UIOriginalClassName: ref(11) }],
      ['NSString', { 'NS.bytes': 'UIButton' }],
      [
        'UIRuntimeAccessibilityConfiguration',
        { UIAccessibileObject: ref(10), UIAccessibilityIdentifier: ref(6) },
      ],
    ]),
  ).toEqual([
    'UIButton 1 true ',
    'UIBarButtonItem 1 true ',
    'UITextField 1 true Your name',
    'UITextField 2 false ',
    'UILabel 1 true ',
    'Your name false ',
  ]);
});

test('every number of an interface file, and texts of every length', () => {
  fc.assert(
    fc.property(
      fc.array(fc.string({ unit: 'binary', maxLength: 300 }), { minLength: 1, maxLength: 200 }),
      (texts) => {
        const objects = texts.map((text, i): [string, Record<string, string>] => [
          `C${i}`,
          { [`k${i}`]: text },
        ]);
        const read = readNibArchive(interfaceFile(objects), 'x');
        expect(
          read.map(({ className, values: [[key, value] = ['', null]] }) => [
            className,
            key,
            new TextDecoder().decode(value as Uint8Array),
          ]),
        ).toEqual(texts.map((text, i) => [`C${i}`, `k${i}`, Buffer.from(text).toString()]));
      },
    ),
    { numRuns: 50 },
  );
});
