/** Variant selection held against what the platform's own library picked: see tests/fixtures/variants/make.mjs. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliDecompressSync } from 'node:zlib';
import { type ResourceTable, readResourceTable } from '../../../src/core/formats/android/resource-table.ts';
import { likelyScript } from '../../../src/core/platform/android/locale-rules.ts';
import {
  ANY_CONFIG,
  formatConfig,
  localeFieldsOf,
  word,
} from '../../../src/core/platform/android/resource-config.ts';
import { explainSelection, selectVariant } from '../../../src/core/platform/android/select-variant.ts';
import type { TargetDevice } from '../../../src/core/platform/android/target-device.ts';
import { withPackage } from '../../../src/node/read-package.ts';
import { demoApk, describeWith, root, tools } from '../../support/paths.ts';

type Numbers = Omit<Record<keyof TargetDevice, number>, 'locale'> & { locale: string };
interface Picks {
  ids: number[];
  configs: string[];
  /** By device, then by resource: a position in `configs`, or -1 for none. */
  picks: number[][];
}
const folder = join(root, 'tests/fixtures/variants');
const read = (name: string) => brotliDecompressSync(readFileSync(join(folder, name)));
const { devices, packages }: { devices: Numbers[]; packages: Record<string, Picks> } = JSON.parse(
  read('platform-picks.json.br').toString(),
);

function deviceOf(numbers: Numbers): TargetDevice {
  const fields = localeFieldsOf(numbers.locale === '-' ? '' : numbers.locale);
  const words = (
    [
      'layoutDirection',
      'screenSize',
      'screenLong',
      'round',
      'colorGamut',
      'dynamicRange',
      'orientation',
      'uiMode',
      'night',
      'touchscreen',
      'keysHidden',
      'keyboard',
      'navigationHidden',
      'navigation',
    ] as const
  ).map((name) => [name, word(name, numbers[name])]);
  return {
    ...ANY_CONFIG,
    ...numbers,
    ...Object.fromEntries(words),
    ...fields,
    script: fields.script || likelyScript(fields.language, fields.region),
  };
}

/** The first few, since one wrong rule makes thousands. */
function disagreements(table: ResourceTable, { configs, ids, picks }: Picks): string[] {
  const found: string[] = [];
  for (const [d, numbers] of devices.entries()) {
    const device = deviceOf(numbers);
    for (const [i, id] of ids.entries()) {
      const resource = table.resources.get(id)!;
      const own = selectVariant(resource, device);
      const said = own === undefined ? 'none' : formatConfig(resource.configs()[own]!);
      // the platform writes the code 00 as it packs it
      const theirs = configs[picks[d]![i]!]?.replace('mnc65535', 'mnc00') ?? 'none';
      if (said !== theirs)
        found.push(
          `${resource.type}/${resource.name}, device ${d} in ${numbers.locale}: ${said} for ${theirs}`,
        );
      const told = explainSelection(resource, device).findIndex(({ outcome }) => outcome === 'chosen');
      if (told !== (own ?? -1)) found.push(`${resource.type}/${resource.name}: explained otherwise`);
      if (found.length > 5) return found;
    }
  }
  return found;
}

test('a package that mixes every qualifier, over 200 devices', () => {
  const table = readResourceTable(read('every-qualifier.arsc.br'));
  expect(packages.everyQualifier!.ids.length).toBeGreaterThan(300);
  expect(disagreements(table, packages.everyQualifier!)).toEqual([]);
});

test('the demo', async () => {
  await withPackage(demoApk, async ({ android }) => {
    expect(disagreements(android!.table!, packages.demo!)).toEqual([]);
  });
});

describeWith('framework')('the framework package', () => {
  test('over 200 devices, resource by resource', async () => {
    await withPackage(tools.framework, async ({ android }) => {
      expect(packages.framework!.ids.length).toBeGreaterThan(3000);
      expect(disagreements(android!.table!, packages.framework!)).toEqual([]);
    });
  });
});
