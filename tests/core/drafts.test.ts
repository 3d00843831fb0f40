/** Drafts of input files: whatever stands in a package, what comes out is YAML that holds just that. */
import fc from 'fast-check';
import { parse } from 'yaml';
import { draftIntent } from '../../src/core/drafts/intent-draft.ts';
import type { IntentFilter } from '../../src/core/model/app-package.ts';
import { aBuild, appEvidence } from '../support/facts.ts';

// what YAML reads as something else, ends lines or begins comments with
const awkward = fc.oneof(
  fc.string({ unit: 'binary', maxLength: 30 }),
  fc
    .array(
      fc.constantFrom(
        '#',
        ': ',
        '- ',
        '\n',
        '\r',
        '\u2028',
        '\u0085',
        '"',
        "'",
        '*',
        '&',
        '!',
        '%',
        '@',
        '|',
        '>',
      ),
      { minLength: 1, maxLength: 8 },
    )
    .map((parts) => parts.join('x')),
  fc.constantFrom('true', 'no', 'null', '~', '1.0', '0x1F', '2026-11-29', '---', '...', '<<', '=', ''),
);

test('names that YAML could take for something else stay what they are', () => {
  fc.assert(
    fc.property(awkward, awkward, fc.uniqueArray(awkward), (id, name, schemes) => {
      const filter = { actions: ['android.intent.action.VIEW'], categories: [], schemes, authorities: [] };
      const { app } = appEvidence({
        name,
        build: { ...aBuild, appId: id, version: name },
        components: [
          {
            type: 'activity',
            name: `${id}.${name}Activity`,
            exported: true,
            enabled: true,
            filters: [filter as unknown as IntentFilter],
            metaData: [],
          },
        ],
      });
      const { questions, yaml } = draftIntent(app);
      const read = parse(yaml);
      expect(read.app).toEqual({ id });
      expect(read.links.schemes).toEqual(schemes);
      expect(Object.keys(read)).toEqual([
        'fenlok',
        'app',
        'sourceLocale',
        'locales',
        'themes',
        'screens',
        'coverage',
        'links',
      ]);
      // every question stands in it, in their order
      expect([...yaml.matchAll(/^ *# \? (.*)$/gm)].map(([, question]) => question)).toEqual(questions);
    }),
    { numRuns: 300 },
  );
});
