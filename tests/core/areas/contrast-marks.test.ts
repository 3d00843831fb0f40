/** Marks of ink that are left out in several rounds: what is kept at last is what was asked for, whatever went before. */
import fc from 'fast-check';
import { keepMarks, markInk } from '../../../src/core/areas/contrast/pixels/find-ink.ts';

const inks = fc
  .record({ widthPx: fc.integer({ min: 1, max: 24 }), heightPx: fc.integer({ min: 1, max: 24 }) })
  .chain(({ heightPx, widthPx }) =>
    fc
      .array(fc.boolean(), { minLength: heightPx * widthPx, maxLength: heightPx * widthPx })
      .map((dots) => ({ widthPx, heightPx, ink: Uint8Array.from(dots, Number) })),
  );

test('the pixels of marks that are kept stay, and no others', () => {
  fc.assert(
    fc.property(inks, fc.infiniteStream(fc.integer({ min: 0, max: 3 })), (ink, rounds) => {
      const all = markInk(ink);
      // 0 is left out in the first round, 1 in the second
      const fate = new Map(all.marks.map(({ label }) => [label, rounds.next().value]));
      const first = keepMarks(
        all,
        all.marks.filter(({ label }) => fate.get(label) !== 0),
      );
      const last = keepMarks(
        first,
        first.marks.filter(({ label }) => fate.get(label) !== 1),
      );
      const wanted = Uint8Array.from(all.labels, (label) => Number(label > 0 && (fate.get(label) ?? 0) > 1));
      expect(last.ink).toEqual(wanted);
      expect(last.marks.reduce((sum, { count }) => sum + count, 0)).toBe(wanted.reduce((a, b) => a + b, 0));
    }),
  );
});
