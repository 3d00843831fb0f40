/** Tables and wrapped texts line up whatever script they are in. */
import fc from 'fast-check';
import { walkStops } from '../../../src/core/areas/accessibility/walk-stops.ts';
import { printableText } from '../../../src/core/reports/escape.ts';
import { outcomeTable } from '../../../src/core/reports/outcome-table.ts';
import { stopTable } from '../../../src/core/reports/stop-table.ts';
import { plainStyle } from '../../../src/core/reports/text-style.ts';
import { wrap } from '../../../src/core/reports/wrap.ts';
import { ui } from '../../support/facts.ts';

/** Names and the columns that a terminal gives them (Unicode, UAX 11 and UTS 51). */
const NAMES: [name: string, columns: number][] = [
  ['Book', 4],
  ['予約する', 8],
  ['Cafe\u0301', 4],
  ['👩‍🚀', 2],
  ['한국어', 6],
  ['עברית', 5],
];
const widthOf = (text: string): number =>
  text
    .replaceAll('👩‍🚀', 'xx')
    .replace(/\p{M}/gu, '')
    .replace(/[\p{Script=Han}\p{Script=Hiragana}\p{Script=Hangul}]/gu, 'xx').length;

test('what readers say is followed by where it comes from, in one column', () => {
  const texts = NAMES.map(([text], i) => ui([0, i * 40, 100, 30], { text }));
  const walk = walkStops(
    ui([0, 0, 400, 800], {}, ...texts),
    { widthPx: 400, heightPx: 800 },
    {
      platform: 'android',
      rtl: false,
    },
  );
  const table = stopTable('Home', walk, 'all', { style: plainStyle, widthColumns: 80 });
  for (const [name, columns] of NAMES) expect(widthOf(name)).toBe(columns);
  const rows = table.split('\n').filter((line) => NAMES.some(([name]) => line.includes(name)));
  expect(rows).toHaveLength(NAMES.length);
  const ends = rows.map((line) => widthOf(line.replace(/ {2}\S[^\n]*$/, '')));
  const starts = rows.map((line) => widthOf(line.slice(0, line.lastIndexOf('  ') + 2)));
  expect(new Set(starts).size).toBe(1);
  expect(Math.max(...ends)).toBeLessThan(80);
});

test('marks stand under the middle of their columns', () => {
  const [head, ...rows] = outcomeTable(
    {
      columns: NAMES.map(([name]) => name),
      rows: NAMES.map(([name]) => ({
        name,
        note: '',
        cells: NAMES.map(() => ({ outcome: 'passed' as const })),
      })),
    } as never,
    { style: plainStyle, widthColumns: 200 },
  );
  const places = (line: string) => [...line.matchAll(/■/g)].map(({ index }) => widthOf(line.slice(0, index)));
  const marked = rows.slice(0, NAMES.length).map(places);
  for (const places of marked) expect(places).toEqual(marked[0]);
  for (const [i, [name, columns]] of NAMES.entries()) {
    const start = widthOf(head!.slice(0, head!.lastIndexOf(name)));
    expect(marked[0]![i]).toBe(start + Math.floor((columns - 1) / 2));
  }
});

test('no line is wider than asked, but for a path that is left whole; and nothing is lost', () => {
  const words = fc.array(fc.constantFrom(...NAMES.map(([name]) => name), '予約'.repeat(30), 'a', 'plain'), {
    minLength: 1,
    maxLength: 40,
  });
  fc.assert(
    fc.property(words, fc.integer({ min: 20, max: 90 }), fc.nat(6), fc.nat(6), (all, width, first, rest) => {
      const lines = wrap(all.join(' '), width, first, rest);
      for (const line of lines) expect(widthOf(line)).toBeLessThanOrEqual(width);
      expect(lines.join('').replaceAll(' ', '')).toBe(all.join(''));
    }),
  );
  const path = `res/${'a'.repeat(60)}.png`;
  expect(wrap(path, 40, 0, 2)).toEqual([path]);
});

test('what turns the order of a line, or moves the cursor, is named and not printed', () => {
  expect(printableText('a\u202eb\u2066c\u200fd\u061ce')).toBe('a<U+202E>b<U+2066>c<U+200F>d<U+061C>e');
  expect(printableText('a\u001b[2Jb\u0085c\u2028d\ne')).toBe('a\ufffd[2Jb\ufffdc d e');
  expect(printableText('שלום, עולם')).toBe('שלום, עולם');
});
