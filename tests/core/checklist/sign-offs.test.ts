/** What a sign-off rests on: the same evidence in any order is the same, and any change of it is one. */
import fc from 'fast-check';
import { indexFacts } from '../../../src/core/areas/check.ts';
import { applySignOffs } from '../../../src/core/checklist/apply-rulings.ts';
import { signOffDigest } from '../../../src/core/checklist/sign-off-basis.ts';
import type { Fact } from '../../../src/core/model/fact.ts';
import type { SignOff } from '../../../src/core/model/ruling.ts';
import { aBuild, aCell, box } from '../../support/facts.ts';

const seen = fc.uniqueArray(
  fc.record({ key: fc.string(), text: fc.string(), locale: fc.constantFrom('en', 'de') }),
  {
    minLength: 1,
    selector: ({ key, locale }) => `${locale}|${key}`,
  },
);
const factsOf = (texts: { key: string; text: string; locale: string }[], of: object = {}): Fact[] =>
  texts.map(({ key, locale, text }) => ({
    kind: 'screen-text',
    cell: { ...aCell, locale, ...of },
    evidence: 'e',
    platform: 'android',
    element: { key, className: 'T', shown: text, boundsPx: box([0, 0, 1, 1]) },
    text,
    from: 'text',
    isField: false,
    order: 0,
  }));
const digest = (facts: Fact[]) => signOffDigest('screens', indexFacts(facts), aBuild);

test('screens: their texts count, and neither their order nor other settings', () => {
  fc.assert(
    fc.property(seen, fc.nat(), fc.string({ minLength: 1 }), (texts, at, more) => {
      const same = digest(factsOf(texts));
      expect(digest([...factsOf(texts).reverse(), ...factsOf(texts, { textScale: 2, theme: 'dark' })])).toBe(
        same,
      );
      const changed = texts.map((one, i) =>
        i === at % texts.length ? { ...one, text: one.text + more } : one,
      );
      expect(digest(factsOf(changed))).not.toBe(same);
    }),
  );
  expect(digest([])).toBeUndefined();
});

test('it holds on while what it rests on is the same, and never for want of evidence', () => {
  const signOff: SignOff = {
    item: 'x',
    outcome: 'passed',
    why: 'w',
    by: 'Ada',
    at: '2026-11-20',
    build: { ...aBuild, build: '6' },
    restsOn: { what: 'texts', digest: 'same' },
    until: '2026-11-23',
  };
  const outcome = (found: string | undefined, today: string) => {
    const context = { itemIds: new Set(['x']), build: aBuild, today, digestOf: () => found };
    const { holding, lapsed } = applySignOffs([signOff], context);
    return holding.has('x') ? 'holds' : lapsed[0]!.why;
  };
  expect(outcome('same', '2026-11-23')).toBe('holds');
  expect(outcome('same', '2026-11-24')).toBe('it held until 2026-11-23');
  expect(outcome('other', '2026-11-23')).toContain('changed since build 6');
  expect(outcome(undefined, '2026-11-23')).toContain('nothing shows yet');
});
