/**
 * Size and weight of a text, told from its glyphs, where they are known: in the type designs of the sheets; with
 * `npm run bench -- designs` in some 60 others, fetched from npm.
 */
import { writeFileSync } from 'node:fs';
import {
  fetchedDesigns,
  isSizeHeld,
  isWeightWrong,
  ownDesigns,
  type Told,
  tellDesign,
} from '../support/type-designs.ts';

const { DESIGNS, TRUTH_OUT } = process.env;

test('the size lies in the range that is told, and no weight is wrong', async () => {
  const designs = DESIGNS === 'all' ? fetchedDesigns() : ownDesigns();
  expect(designs.length).toBeGreaterThan(5);
  const all: Told[] = [];
  for (const design of designs) for await (const told of tellDesign(design)) all.push(told);
  const wrong = all.filter(isWeightWrong);
  if (TRUTH_OUT) writeFileSync(TRUTH_OUT, JSON.stringify({ tables: { byDesign: tabulate(all) }, wrong }));
  expect(wrong).toEqual([]);
  const seen = all.filter(({ told }) => told);
  expect(seen.length / all.length).toBeGreaterThan(0.98);
  expect(seen.filter(isSizeHeld).length / seen.length).toBeGreaterThan(0.97);
  // telling nothing is no way out
  const regular = seen.filter(({ weight }) => weight <= 400);
  expect(regular.filter(({ told }) => told!.bold === false).length / regular.length).toBeGreaterThan(0.85);
}, 1_800_000);

function tabulate(all: readonly Told[]): string {
  const share = (of: readonly unknown[], total: readonly unknown[]) =>
    total.length > 0 ? `${((100 * of.length) / total.length).toFixed(1)} %` : '-';
  const row = (name: string, of: readonly Told[]) => {
    const seen = of.filter(({ told }) => told);
    const widths = seen
      .map(({ told }) => told!.sizeDp)
      .map(([least, most]) => (most - least) / (most + least))
      .sort((a, b) => a - b);
    const regular = seen.filter(({ weight }) => weight <= 400);
    const bold = seen.filter(({ weight }) => weight >= 700);
    return [
      name,
      new Set(of.map(({ design }) => design)).size,
      of.length,
      share(seen.filter(isSizeHeld), seen),
      `±${(100 * (widths[widths.length >> 1] ?? 0)).toFixed(0)} %`,
      share(
        regular.filter(({ told }) => told!.bold === false),
        regular,
      ),
      share(
        bold.filter(({ told }) => told!.bold === true),
        bold,
      ),
      of.filter(isWeightWrong).length,
    ].join('\t');
  };
  const scripts = [...new Set(all.map(({ script }) => script))];
  return [
    'script\tdesigns\ttexts\tsize held\twidth\tregular told\tbold told\twrong weight',
    ...scripts.map((name) =>
      row(
        name,
        all.filter(({ script }) => script === name),
      ),
    ),
    row('all', all),
  ].join('\n');
}
