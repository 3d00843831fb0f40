/** The mapping file or the symbols of this very build are kept, so that crash reports can be read. */

import { z } from 'zod';
import type { SymbolsFact } from '../../../model/facts/quality.ts';
import { type Assertion, defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({
  /** What of the build has no symbols: its code, or a binary. */
  part: z.string(),
  wanted: z.string(),
  given: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

export const keptSymbols = defineCheck({
  id: 'kept-symbols',
  area: 'quality',
  priority: 'harder',
  standard:
    'Android developers, Shrink, obfuscate, and optimize your app; Apple, Building your app to include debugging information',
  basis: 'measured',
  needs: 'package',
  reads: ['build-ids', 'symbols'],
  data: dataSchema,
  words: ({ given, part, wanted }) => ({
    what: `The symbols that were added are of another build than ${part}`,
    measured: `those that were added are of ${given.join(', ')}`,
    required: `those of ${wanted}`,
    why: 'Stacks of crash reports are read with wrong names, or with none.',
    remedy: 'Keep the mapping file or the dSYM that this build wrote, and add it: fenlok add mapping.txt.',
  }),

  *run(facts): Iterable<Assertion<Data>> {
    const symbols = facts.of('symbols');
    for (const build of facts.of('build-ids')) {
      const { part, sort } = build;
      const fitting = symbols.filter((one) => one.sort === sort);
      if (fitting.length === 0) {
        yield {
          outcome: 'untested',
          because:
            sort === 'mapping'
              ? 'the code has other names than people gave it, and no mapping file was added: fenlok add mapping.txt'
              : `no dSYM of ${part} was added: fenlok add ${part}.dSYM`,
        };
        continue;
      }
      const ids = new Set(fitting.flatMap(idsOf));
      if (build.ids.some((id) => ids.has(id))) yield { outcome: 'passed' };
      // a dSYM of another part says nothing about this one
      else if (sort === 'dsym' && !fitting.some(({ file }) => file.startsWith(`${part}.`)))
        yield { outcome: 'untested', because: `no dSYM of ${part} was added: fenlok add ${part}.dSYM` };
      else if (ids.size === 0)
        yield { outcome: 'untested', because: 'the mapping file that was added names no build' };
      else
        yield {
          outcome: 'failed',
          draft: {
            identity: { subject: part },
            basis: 'measured',
            severity: 1,
            digest: build.ids.join(' '),
            occurrence: {
              evidence: fitting[0]!.evidence,
              shown: part,
              data: { part, wanted: build.ids.join(', '), given: [...ids] },
            },
          },
        };
    }
  },

  doc: {
    looksAt:
      'The id that R8 writes into code and mapping file alike; the UUID that a binary and its dSYM share',
    against: 'The same in both',
    matters: 'A crash report of a build without its symbols tells only short names and addresses.',
    measured:
      'R8’s marker in the dex files against `pg_map_id` of the mapping; `LC_UUID` of each binary against those of the dSYMs.',
    errs: 'Code that another shrinker renamed carries no id, and is not looked at.',
    fixes: [
      {
        where: 'A shell',
        language: 'sh',
        code: 'fenlok add app/build/outputs/mapping/release/mapping.txt\nfenlok add Kelpline.xcarchive/dSYMs/Kelpline.app.dSYM',
      },
    ],
  },
});

const idsOf = ({ mapId, uuids }: SymbolsFact): string[] =>
  [mapId, ...uuids.map((one) => one.split(' ').at(-1)!)].filter(Boolean);
