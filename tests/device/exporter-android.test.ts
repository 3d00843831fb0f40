/**
 * The exporter for instrumentation tests: compiled against the platform's classes of level 23, each newer call held against the
 * platform's own declarations, and what it writes against the schema that everybody's captures are held to.
 */
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import sharp from 'sharp';
import { sourceFolder } from '../../scripts/corpora.mjs';
import { parseCapture } from '../../src/core/formats/capture.ts';
import { decodeTrace } from '../../src/core/formats/trace.ts';
import { addCapture } from '../../src/node/captures.ts';
import { addPackage, openDossier } from '../../src/node/dossier.ts';
import { observeDossier } from '../../src/node/observe.ts';
import { withPackage } from '../../src/node/read-package.ts';
import { FAKES } from '../support/android-fakes.ts';
import { kelplineIntent } from '../support/drill-bench.ts';
import { demoApk, root, scratchFolder } from '../support/paths.ts';

const scratch = scratchFolder();
const file = join(root, 'src/device/android/exporter/FenlokExporter.java');
const text = readFileSync(file, 'utf8');
const level23 = sourceFolder('android-23');
const types = sourceFolder('android-types');
const classes = join(scratch, 'classes');

const picture = join(scratch, 'screen.png');

beforeAll(async () => {
  const create = { width: 720, height: 1280, channels: 3 as const, background: '#336' };
  await sharp({ create }).png().toFile(picture);
  mkdirSync(classes, { recursive: true });
  if (!level23) return;
  const jar = join(level23, 'usr/share/java/com.android.android-23.jar');
  const args = [
    '-Xlint:all',
    '-Xlint:-options',
    '-Werror',
    '-source',
    '8',
    '-target',
    '8',
    '-bootclasspath',
    jar,
  ];
  execFileSync('javac', [...args, '-d', classes, file], { stdio: 'inherit' });
  // what stands in the place of the platform when it runs
  const fakes = Object.entries(FAKES).map(([path, body]) => {
    const place = join(scratch, 'fakes', `${path}.java`);
    mkdirSync(dirname(place), { recursive: true });
    const name = dirname(path).replaceAll('/', '.');
    writeFileSync(place, name === '.' ? body : `package ${name};\n${body}`);
    return place;
  });
  execFileSync('javac', ['-nowarn', '-cp', classes, '-d', classes, ...fakes], { stdio: 'inherit' });
});

/** @returns the capture and the trace that it writes on a device of a level */
async function exportAt(level: number) {
  const folder = join(scratch, `out-${level}`);
  const run = spawnSync(
    'java',
    ['-cp', classes, `-Dlevel=${level}`, `-Dpicture=${picture}`, 'Main', folder, demoApk],
    { encoding: 'utf8' },
  );
  expect(run.stderr).toBe('');
  const name = run.stdout.trim();
  const json = readFileSync(join(folder, name), 'utf8');
  return {
    folder,
    name,
    capture: parseCapture(name, json),
    lines: await decodeTrace('trace.jsonl', readFileSync(join(folder, 'trace.jsonl'), 'utf8')),
  };
}

const onLevel23 = level23 ? test : test.skip;

onLevel23('on a new device: what readers are told, the build, and how the device is set', async () => {
  const { capture, lines, name } = await exportAt(34);
  expect(name).toBe('booking-as-is-de-DE-dark-1.0-portrait.json');
  const { build } = (await withPackage(demoApk, ({ app }) => app))!;
  expect(capture.build).toEqual(build);
  expect(capture.cell).toMatchObject({
    screen: 'booking',
    locale: 'de-DE',
    theme: 'dark',
    device: 'made-up',
  });
  expect(capture.carries).toEqual(['label-for', 'actions', 'headings', 'values']);
  const [title, label, field, row, seats] = capture.tree!.children;
  expect(title).toMatchObject({ id: 'title', text: 'Fähre "Heron" 🚢', heading: true, textSizeDp: 18 });
  expect(label).toMatchObject({ labelFor: 'email_field', readBefore: 'email_field', heading: false });
  expect(field).toMatchObject({ hint: 'name@example.com', focusable: true, clickable: false });
  expect(row).toMatchObject({ isElement: true, value: 'an', actions: ['Verwerfen'], expanded: true });
  expect(seats).toMatchObject({ value: '3.0 of 5.0', bounds: { x: 32, y: 560, width: 656, height: 60 } });
  expect(lines).toMatchObject([{ kind: 'link.opened', arguments: { sailing: '2' } }, { kind: 'app.idle' }]);
});

onLevel23('on an old one: what its level does not tell is not said to be looked at', async () => {
  const { capture } = await exportAt(23);
  expect(capture.carries).toEqual(['label-for', 'actions']);
  const [title, , , row] = capture.tree!.children;
  for (const [node, key] of [
    [title, 'heading'],
    [title, 'textSizeDp'],
    [row, 'isElement'],
    [row, 'value'],
  ] as const)
    expect(node).not.toHaveProperty(key);
});

onLevel23('it is taken in as measured, and stops have their headings', async () => {
  const { capture, folder, name } = await exportAt(34);
  const dossier = join(scratch, 'dossier');
  await addPackage(dossier, demoApk);
  const opened = await openDossier(dossier);
  const bytes = new Uint8Array(readFileSync(join(folder, capture.picture)));
  await addCapture(opened, name, { capture, picture: bytes });
  const facts = await observeDossier(opened, kelplineIntent, {});
  expect(facts.find((fact) => fact.kind === 'capture')).toMatchObject({ buildBasis: 'seen' });
  expect(facts.filter((fact) => fact.kind === 'stop').map(({ heading }) => heading)).toContain(true);
});

(types ? test : test.skip)(
  'each call that came after level 23 is what the platform declares, since the level that is named',
  () => {
    const declared = readFileSync(join(types!, 'lib/android/android-platform-21-37-merged.d.ts'), 'utf8');
    const from = declared.indexOf('export class AccessibilityNodeInfo extends');
    const members = declared.slice(from, declared.indexOf('export module AccessibilityNodeInfo', from));
    const calls = [...text.matchAll(/new Call\((\d+), "(\w+)"((?:, \w+\.class)*)\)/g)];
    expect(calls.length).toBeGreaterThan(3);
    for (const [, since, name, given = ''] of calls) {
      const found = new RegExp(`/\\*\\* @since (\\d+) \\*/\\s+public ${name}\\(([^)]*)\\)`).exec(members);
      const parameters = (found?.[2] ?? '')
        .split(', ')
        .filter(Boolean)
        .map((one) => one.split(': ')[1]!.split('.').at(-1));
      const types_ = given
        .split(', ')
        .filter(Boolean)
        .map((one) => one.replace('.class', '').replace('String', 'string'));
      expect([name, found?.[1], parameters]).toEqual([name, since, types_]);
    }
    const [key = ''] = /"android\.view\.accessibility\.extra\.\w+"/.exec(text) ?? [];
    expect(members).toContain(`public static EXTRA_DATA_RENDERING_INFO_KEY: ${key}`);
    expect(declared).toMatch(/class ExtraRenderingInfo[\s\S]{0,2000}public getTextSizeInPx\(\): number/);
  },
);
