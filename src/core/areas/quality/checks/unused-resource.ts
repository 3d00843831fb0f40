import { z } from 'zod';
import type { UnusedResourceFact } from '../../../model/fact.ts';
import { libraryOf } from '../../../platform/android/library-resources.ts';
import { LOOKS_UP_BY_NAME } from '../../../platform/app-toolkits.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { round } from '../../words.ts';

// What takes room, or work for translators; values such as colours and styles weigh next to nothing.
const COUNTED = new Set(['drawable', 'mipmap', 'raw', 'font', 'layout', 'string', 'plurals', 'array']);

// As many names as a person reads; the count says the rest.
const NAMES_SHOWN = 12;

const dataSchema = z.strictObject({
  type: z.string(),
  count: z.number(),
  bytes: z.number(),
  names: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

/** Resources that nothing leads to, one finding a type: code may still look them up in ways that cannot be seen. */
export const unusedResource = defineCheck({
  id: 'unused-resource',
  area: 'quality',
  priority: 'harder',
  standard: 'Android developers, Reduce your app size',
  basis: 'estimated',
  needs: 'package',
  reads: ['unused-resource'],
  data: dataSchema,
  words: ({ bytes, count, names, type }) => {
    const shown = names;
    return {
      what: `${count} ${type} ${count === 1 ? 'resource that nothing leads to' : 'resources that nothing leads to'}`,
      measured: `${shown.map(withoutType).join(', ')}${shown.length < count ? ` and ${count - shown.length} more` : ''}${bytes > 0 ? `, ${round(bytes / 1024)} KiB in the package` : ''}`,
      required: 'a way to it from code, manifest or another resource',
      why: 'Code may still look it up in a way that cannot be seen in the package, so this is an estimate.',
      remedy: 'Remove what is not needed, or let the build shrink resources.',
    };
  },

  *run(facts): Iterable<Assertion<Data>> {
    const toolkits = facts.of('package').flatMap((of) => of.toolkits ?? []);
    if (toolkits.some((toolkit) => LOOKS_UP_BY_NAME.has(toolkit))) return;
    const byType = new Map<string, UnusedResourceFact[]>();
    for (const fact of facts.of('unused-resource'))
      if (COUNTED.has(fact.type) && libraryOf(fact.name) === undefined)
        byType.set(fact.type, [...(byType.get(fact.type) ?? []), fact]);
    if (byType.size === 0) yield { outcome: 'passed' };
    for (const [type, unused] of byType) yield judgeType(type, unused);
  },

  doc: {
    looksAt:
      'Pictures, layouts, files and texts that manifest, code and other resources lead to, but for those of libraries',
    against: 'All of them. Always estimated; not looked at where a toolkit looks them up by name',
    matters: 'It makes every download larger.',
    measured:
      'Pictures, layouts, files and texts that neither manifest, nor code, nor another resource leads to.',
    errs: 'Code may look them up by name; always estimated, and not looked at where a toolkit does so.',
    fixes: [
      {
        where: 'build.gradle.kts',
        language: 'kotlin',
        code: 'buildTypes { release { isMinifyEnabled = true; isShrinkResources = true } }',
      },
    ],
  },
});

function judgeType(type: string, unused: readonly UnusedResourceFact[]): Assertion<Data> {
  const sorted = [...unused].sort(
    (a, b) => b.compressedBytes - a.compressedBytes || (a.name < b.name ? -1 : 1),
  );
  const bytes = sorted.reduce((sum, { compressedBytes }) => sum + compressedBytes, 0);
  return {
    outcome: 'cantTell',
    draft: {
      identity: { subject: type },
      basis: 'estimated',
      severity: bytes,
      digest: sorted.map(({ name }) => name).join(' '),
      occurrence: {
        evidence: sorted[0]!.evidence,
        shown: type,
        data: {
          type,
          count: sorted.length,
          bytes,
          names: sorted.slice(0, NAMES_SHOWN).map(({ name }) => name),
        },
      },
    },
  };
}

const withoutType = (name: unknown): string => String(name).replace(/^.*\//, '');
