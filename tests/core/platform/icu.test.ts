/** Messages of ICU beside the parser of @formatjs: which it takes, and that made-up languages break none of them. */
import { parse } from '@formatjs/icu-messageformat-parser';
import fc from 'fast-check';
import type { CatalogueEntry } from '../../../src/core/model/catalogue.ts';
import { parseIcu } from '../../../src/core/platform/text/icu.ts';
import { measureText } from '../../../src/core/platform/text/measure-text.ts';
import { pseudoLocales, pseudoLocalize } from '../../../src/core/platform/text/pseudo-locale.ts';

const isTaken = (message: string): boolean => {
  try {
    parse(message, { ignoreTag: true });
    return true;
  } catch {
    return false;
  }
};

// what looks odd, and is taken: a closing brace outside of every argument, an argument in quotes
const ODD = new Set(['unopened-brace', 'quoted-placeholder']);
const faultsOf = (message: string) => parseIcu(message).faults.filter(({ code }) => !ODD.has(code));

test('pieces of messages put together at random: what is refused is a fault, and nothing else', () => {
  const piece = fc.constantFrom(
    ...[
      '{',
      '}',
      '{{',
      '}}',
      'name',
      '{name}',
      '{a-b}',
      "'",
      "''",
      '#',
      '{0}',
      '{01}',
      '{_z}',
      '{ y }',
      '{x y}',
    ],
    ...['{n, number}', '{n, number, ::currency/EUR}', '{d, date, short}', '{x, foo}', '{x,}', ' x ', '<b>'],
    ...['{n, plural, ', '{g, select, ', '{n, selectordinal, ', 'offset:1 ', 'one {', 'few {', 'other {'],
    ...['=0 {', '=x {', 'male {', '} '],
  );
  const counts = { taken: 0, refused: 0 };
  fc.assert(
    fc.property(fc.array(piece, { minLength: 1, maxLength: 12 }), (pieces) => {
      const message = pieces.join('');
      // that parser lets an apostrophe quote a tag, even where tags are text
      fc.pre(!message.includes("'<"));
      const taken = isTaken(message);
      counts[taken ? 'taken' : 'refused'] += 1;
      expect([message, faultsOf(message).length === 0]).toEqual([message, taken]);
    }),
    { numRuns: 8000 },
  );
  expect(Math.min(counts.taken, counts.refused)).toBeGreaterThan(500);
});

/** Whole messages, with choices in choices. */
const { message } = fc.letrec<{ message: string; choice: string }>((tie) => ({
  message: fc
    .array(
      fc.oneof(
        { maxDepth: 3 },
        fc.constantFrom(
          'Open ',
          "it''s ",
          "'{'quoted'}' ",
          '<b>bold</b> ',
          '{name} ',
          '{n, number} ',
          '50 % ',
        ),
        tie('choice'),
      ),
      { minLength: 1, maxLength: 4 },
    )
    .map((parts) => parts.join('')),
  choice: fc
    .tuple(
      fc.constantFrom('{n, plural, one', '{g, select, male', '{n, selectordinal, few'),
      tie('message'),
      tie('message'),
    )
    .map(([head, one, other]) => `${head} {${one}} other {${other}}} `),
}));

test('a message in a made-up language is a message with the same arguments, and other words', () => {
  fc.assert(
    fc.property(message, fc.constantFrom(...pseudoLocales), (text, kind) => {
      const entry: CatalogueEntry = { key: 'k', locale: 'en', kind: 'text', forms: [{ form: '', text }] };
      const [made] = pseudoLocalize([entry], 'icu', kind);
      const changed = made!.forms[0]!.text;
      expect(isTaken(changed)).toBe(true);
      expect(measureText(changed, 'icu').placeholders).toEqual(measureText(text, 'icu').placeholders);
      const hasWords = /Open|bold|it''s|quoted/.test(text);
      expect(changed === text).toBe(!hasWords);
      if (hasWords && kind === 'accented') expect(changed).not.toMatch(/Open|\bbold\b|it''s|quoted/);
      expect(changed.match(/<\/?b>/g) ?? []).toEqual(text.match(/<\/?b>/g) ?? []);
    }),
    { numRuns: 500 },
  );
});

test('a choice is read as one in any catalogue, and its texts are made up too', () => {
  const text = 'You have {count, plural, one {# letter} other {# letters}} in {box}';
  const entry: CatalogueEntry = { key: 'k', locale: 'en', kind: 'text', forms: [{ form: '', text }] };
  const [made] = pseudoLocalize([entry], 'printf-java', 'accented');
  const changed = made!.forms[0]!.text;
  expect(isTaken(changed)).toBe(true);
  expect(changed).toMatch(/\{count, plural, one \{# ļéţţéŕ\} other \{# ļéţţéŕš\}\}/);
});
