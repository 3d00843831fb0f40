/** Work that several machines shared, merged in any order, is judged as if one had done it all. */
import { mkdirSync, readFileSync, rmSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import sharp from 'sharp';
import { partOf } from '../../src/core/model/part.ts';
import {
  addCapture,
  addCatalogue,
  addPackage,
  addPayload,
  addSiteFile,
  addTrace,
  type Dossier,
  judgeDossier,
  mergeDossier,
  observeDossier,
  openDossier,
  readProject,
} from '../../src/node/index.ts';
import { demoApk, demoFolder, scratchFolder } from '../support/paths.ts';
import { copyIntent, pretendBuild } from '../support/project.ts';

const folder = scratchFolder();
const XML =
  '<hierarchy><node bounds="[0,0][300,600]"><node clickable="true" bounds="[10,10][40,40]"/></node></hierarchy>';

const capture = (screen: string, theme: string) => async (dossier: Dossier) => {
  const picture = `${screen}-${theme}`;
  const background = theme === 'dark' ? '#111' : '#eee';
  await sharp({ create: { width: 300, height: 600, channels: 3, background } })
    .png()
    .toFile(join(folder, `${picture}.png`));
  writeFileSync(join(folder, `${picture}.xml`), XML);
  const cell = { screen, locale: 'en', theme, device: 'common', procedure: 'as-is' };
  const file = join(folder, `${picture}.json`);
  const names = { picture: `${picture}.png`, hierarchy: `${picture}.xml` };
  writeFileSync(
    file,
    JSON.stringify({ fenlok: 'capture/1', platform: 'android', cell, densityDpi: 160, ...names }),
  );
  await addCapture(dossier, file);
};

const pieces: ((dossier: Dossier) => Promise<unknown>)[] = [
  capture('timetable', 'light'),
  capture('timetable', 'dark'),
  capture('booking', 'light'),
  (dossier) => addCatalogue(dossier, join(demoFolder, 'android/res/values-de/strings.xml')),
  (dossier) => addCatalogue(dossier, join(demoFolder, 'android/res/values-ar/strings.xml')),
  (dossier) => addPayload(dossier, join(demoFolder, 'push/delay.json')),
  (dossier) => addSiteFile(dossier, join(demoFolder, 'site/kelpline.example/.well-known/assetlinks.json')),
  (dossier) => {
    const file = join(folder, 'app.jsonl');
    writeFileSync(file, '{"at":"2026-11-23T10:00:00Z","kind":"link.opened","url":"kelpline://tickets"}\n');
    return addTrace(dossier, file);
  },
];

// side by side, since messages are known by their path from the dossier
const begin = async (name: string): Promise<Dossier> => {
  const path = join(folder, name);
  rmSync(path, { recursive: true, force: true });
  await addPackage(path, demoApk);
  return openDossier(path);
};
const judged = async (dossier: Dossier) =>
  JSON.stringify(
    await judgeDossier(dossier, await readProject(folder, 'example.kelpline'), {
      strict: false,
      now: new Date('2026-11-29T10:00:00Z'),
    }),
  );

let whole: string;
beforeAll(async () => {
  copyIntent(folder);
  const dossier = await begin('whole');
  for (const add of pieces) await add(dossier);
  whole = await judged(dossier);
});

test('whoever took in and measured what, in whatever order it is merged', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.uniqueArray(fc.nat(2), { minLength: 1 }), {
        minLength: pieces.length,
        maxLength: pieces.length,
      }),
      fc.shuffledSubarray([0, 1, 2], { minLength: 3 }),
      fc.boolean(),
      async (holders, order, isMeasured) => {
        const machines = await Promise.all([0, 1, 2].map((i) => begin(`machine-${i}`)));
        for (const [i, on] of holders.entries()) for (const one of on) await pieces[i]!(machines[one]!);
        if (isMeasured)
          for (const [i, dossier] of machines.entries())
            await observeDossier(dossier, { catalogues: [] }, { part: { index: i + 1, of: 3 } });
        const into = join(folder, 'merged');
        rmSync(into, { recursive: true, force: true });
        for (const i of order) await mergeDossier(into, machines[i]!.folder);
        expect(await judged(await openDossier(into))).toBe(whole);
        const { again, differing, taken } = await mergeDossier(into, machines[0]!.folder);
        expect([taken, differing, again.length > 0 || holders.every((on) => !on.includes(0))]).toEqual([
          [],
          [],
          true,
        ]);
      },
    ),
    { numRuns: 8 },
  );
});

test('of one name the newer counts, links lead nowhere, and another build is refused', async () => {
  const [ours, theirs] = [await begin('ours'), await begin('theirs')];
  const site = 'sites/kelpline.example/assetlinks.json';
  for (const [{ folder: at }, text] of [
    [ours, '[]'],
    [theirs, '[{}]'],
  ] as const) {
    mkdirSync(join(at, 'sites/kelpline.example'), { recursive: true });
    writeFileSync(join(at, site), text);
  }
  utimesSync(join(ours.folder, site), 1000, 1000);
  utimesSync(join(theirs.folder, site), 2000, 2000);
  symlinkSync(demoApk, join(theirs.folder, 'sites/kelpline.example/app-ads.txt'));
  const kept = async (into: Dossier, from: Dossier) =>
    (await mergeDossier(into.folder, from.folder)).differing;
  expect(await kept(ours, theirs)).toEqual([{ name: site, kept: 'theirs' }]);
  expect(readFileSync(join(ours.folder, site), 'utf8')).toBe('[{}]');
  writeFileSync(join(theirs.folder, site), '[]');
  utimesSync(join(theirs.folder, site), 1500, 1500);
  expect(await kept(ours, theirs)).toEqual([{ name: site, kept: 'ours' }]);
  expect(() => readFileSync(join(ours.folder, 'sites/kelpline.example/app-ads.txt'))).toThrow('ENOENT');
  pretendBuild(theirs.folder, { build: '239' });
  await expect(mergeDossier(ours.folder, theirs.folder)).rejects.toThrow(/2\.4\.0 \(239\).*2\.4\.0 \(240\)/s);
});

test('parts hold everything once, and are of one size but for one', () => {
  fc.assert(
    fc.property(fc.array(fc.nat()), fc.integer({ min: 1, max: 12 }), (list, of) => {
      const parts = Array.from({ length: of }, (_, i) => partOf(list, { index: i + 1, of }));
      expect(parts.flat()).toEqual(list);
      const sizes = parts.map(({ length }) => length);
      expect(Math.max(...sizes) - Math.min(...sizes)).toBeLessThanOrEqual(1);
    }),
  );
});
