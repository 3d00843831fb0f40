/** The words of every check, over any data that its schema allows: whole sentences, and every value that is given is used. */
import fc from 'fast-check';
import { z } from 'zod';
import { checks } from '../../../src/core/areas/checks.ts';
import { textPlaceShape } from '../../../src/core/areas/localization/texts/text-draft.ts';
import { aCell } from '../../support/facts.ts';

interface Shape {
  type?: string;
  properties?: Record<string, Shape>;
  required?: string[];
  items?: Shape;
  enum?: string[];
  const?: unknown;
  anyOf?: Shape[];
  allOf?: Shape[];
}

function anyOfShape(shape: Shape): fc.Arbitrary<unknown> {
  if (shape.const !== undefined) return fc.constant(shape.const);
  if (shape.enum) return fc.constantFrom(...shape.enum);
  if (shape.anyOf) return fc.oneof(...shape.anyOf.map(anyOfShape));
  if (shape.allOf)
    return fc.tuple(...shape.allOf.map(anyOfShape)).map((parts) => Object.assign({}, ...(parts as object[])));
  switch (shape.type) {
    case 'object':
      return fc.record(
        Object.fromEntries(Object.entries(shape.properties ?? {}).map(([key, of]) => [key, anyOfShape(of)])),
        { requiredKeys: shape.required ?? [] },
      );
    case 'array':
      return fc.array(anyOfShape(shape.items ?? {}), { minLength: 1, maxLength: 9 });
    case 'number':
      return fc.oneof(fc.integer({ min: 0, max: 9000 }), fc.constantFrom(1, 2));
    case 'boolean':
      return fc.boolean();
    default:
      return fc.stringMatching(/^[a-z]{1,8}( [a-z]{1,8}){0,12}$/);
  }
}

const keysOf = ({ allOf = [], anyOf = [], properties = {} }: Shape): string[] => [
  ...Object.keys(properties),
  ...[...allOf, ...anyOf].flatMap(keysOf),
];

/** Which text it is: for machines, whatever the words need of it. */
const TEXT_PLACE = Object.keys(textPlaceShape);

const BROKEN = /undefined|NaN|\[object|\$\{|^$/;

test.each(checks.map((check) => [check.id, check] as const))('%s', (_, check) => {
  const shape = z.toJSONSchema(check.data, { io: 'output' }) as Shape;
  const read = new Set<string>();
  const finding = fc.record({
    basis: check.basis === 'either' ? fc.constantFrom('measured', 'estimated') : fc.constant(check.basis),
    data: anyOfShape(shape) as fc.Arbitrary<Record<string, string>>,
    shown: fc.constantFrom('Close', 'Book now'),
  });
  fc.assert(
    fc.property(finding, ({ basis, data, shown }) => {
      const noted = new Proxy(data, {
        get: (of, key) => {
          read.add(String(key));
          return of[key as string];
        },
      });
      const words = check.words(noted, {
        basis: basis as 'measured',
        identity: { subject: 'it', screen: 'home' },
        occurrences: [{ evidence: 'e', cell: aCell, shown, data: noted }],
      });
      // cheaper than a matcher for each of half a million sentences
      const broken = Object.entries(words).filter(([, text]) => text.trim() !== text || BROKEN.test(text));
      if (broken.length > 0) throw new Error(JSON.stringify({ broken, data }));
    }),
    { numRuns: 400, seed: 7 },
  );
  const unread = keysOf(shape).filter((key) => !read.has(key) && !TEXT_PLACE.includes(key));
  expect(unread).toEqual([]);
});
