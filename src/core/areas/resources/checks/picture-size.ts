/**
 * Pixel sizes of a picture follow its densities: 0.75 : 1 : 1.33 : 1.5 : 2 : 3 : 4 from ldpi to xxxhdpi (Android
 * developers, *Support different pixel densities*), 1 : 2 : 3 on iOS (Apple, *Human Interface Guidelines*, Images).
 */

import { z } from 'zod';
import type { ResourceForm } from '../../../model/app-package.ts';
import type { VariedResourceFact } from '../../../model/fact.ts';
import { libraryOf } from '../../../platform/android/library-resources.ts';
import { parseConfig } from '../../../platform/android/parse-config.ts';
import { formatConfig } from '../../../platform/android/resource-config.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { nameOf } from '../words.ts';

const dataSchema = z.strictObject({
  variant: z.string(),
  file: z.string(),
  widthPx: z.number(),
  heightPx: z.number(),
  expectedWidthPx: z.number(),
  expectedHeightPx: z.number(),
  standard: z.string(),
  agreeing: z.number(),
});
type Data = z.infer<typeof dataSchema>;

export const pictureSize = defineCheck({
  id: 'picture-size',
  area: 'resources',
  priority: 'harder',
  standard: 'Android developers, Support different pixel densities; Human Interface Guidelines, Images',
  basis: 'measured',
  needs: 'package',
  reads: ['varied-resource'],
  data: dataSchema,
  words: (
    { agreeing, expectedHeightPx, expectedWidthPx, file, heightPx, standard, variant, widthPx },
    { identity },
  ) => ({
    what: `${identity.subject} changes its size on ${nameOf(variant)} screens`,
    measured: `${widthPx} × ${heightPx} px (${file})`,
    required: `${expectedWidthPx} × ${expectedHeightPx} px, as ${nameOf(standard)} has it${agreeing > 1 ? ` and ${agreeing - 1} more` : ''}: 0.75 : 1 : 1.33 : 1.5 : 2 : 3 : 4`,
    why: 'On screens of this density it is drawn larger or smaller than on others, or out of proportion.',
    remedy: 'Export it again at this size.',
  }),

  *run(facts) {
    for (const fact of facts.of('varied-resource'))
      if (fact.platform === 'ios' || libraryOf(fact.name) === undefined)
        for (const group of groupsOf(fact)) yield* judgeGroup(fact, group);
  },

  doc: {
    looksAt: 'Pixel sizes of a picture over its densities',
    against: '0.75 : 1 : 1.33 : 1.5 : 2 : 3 : 4; on iOS 1 : 2 : 3',
    matters: 'The picture is larger or smaller on screens of one density than on all others.',
    measured: 'The pixel sizes of a picture over its densities.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'Any',
        language: 'text',
        code: 'Export the picture again at the size that the finding names.',
      },
    ],
  },
});

interface Sized {
  form: ResourceForm;
  /** In multiples of 160 dpi. */
  factor: number;
}

/** Forms that differ by density alone. */
function groupsOf({ forms, platform }: VariedResourceFact): Sized[][] {
  const groups = new Map<string, Sized[]>();
  for (const form of forms) {
    if (!form.widthPx || form.stretches) continue;
    const config = platform === 'android' ? parseConfig(form.qualifiers) : undefined;
    const factor = config ? (config.density || 160) / 160 : Number(/^@(\d)x/.exec(form.qualifiers)?.[1]);
    // what is never scaled has no size to keep to
    if (!(factor > 0) || factor > 100) continue;
    const key = config ? formatConfig({ ...config, density: 0, sdkVersion: 0 }) : '';
    groups.set(key, [...(groups.get(key) ?? []), { form, factor }]);
  }
  return [...groups.values()].filter((group) => group.length > 1);
}

/** The size in dp that most forms agree on; those that differ from it by more than a pixel's rounding. */
function* judgeGroup(fact: VariedResourceFact, group: readonly Sized[]): Generator<Assertion<Data>> {
  const agreeing = (of: Sized) => group.filter((other) => fits(other, of)).length;
  const standard = [...group].sort((a, b) => agreeing(b) - agreeing(a) || b.factor - a.factor)[0]!;
  for (const sized of group) {
    const { factor, form } = sized;
    if (fits(sized, standard)) {
      yield { outcome: 'passed' };
      continue;
    }
    const expected = [standard.form.widthPx!, standard.form.heightPx!].map((px) =>
      Math.round((px * factor) / standard.factor),
    ) as [number, number];
    yield {
      outcome: 'failed',
      draft: {
        identity: { subject: fact.name, aspect: form.qualifiers },
        basis: 'measured',
        severity:
          Math.abs(Math.log(form.widthPx! / expected[0])) + Math.abs(Math.log(form.heightPx! / expected[1])),
        digest: `${form.widthPx} × ${form.heightPx} for ${expected.join(' × ')}`,
        occurrence: {
          evidence: fact.evidence,
          shown: fact.name,
          data: {
            variant: form.qualifiers,
            file: form.file ?? '',
            widthPx: form.widthPx!,
            heightPx: form.heightPx!,
            expectedWidthPx: expected[0],
            expectedHeightPx: expected[1],
            standard: standard.form.qualifiers,
            agreeing: agreeing(standard),
          },
        },
      },
    };
  }
}

/** Either way round, a size may be rounded to a whole pixel of the coarser one. */
function fits(a: Sized, b: Sized): boolean {
  const near = (x: number, y: number) =>
    Math.abs(x / a.factor - y / b.factor) <= 1 / Math.min(a.factor, b.factor);
  return near(a.form.widthPx!, b.form.widthPx!) && near(a.form.heightPx!, b.form.heightPx!);
}
