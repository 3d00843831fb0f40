import { z } from 'zod';
import type { AskedBy } from '../../../model/app-package.ts';
import { formatLevel } from '../../../platform/android/platform-levels.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { configsOf, type Situation } from '../devices.ts';
import { type PickedResource, pickedResources } from '../picks.ts';
import { nameOf } from '../words.ts';

const dataSchema = z.strictObject({
  forms: z.array(z.string()),
  missing: z.number(),
  of: z.number(),
  device: z.string(),
  level: z.number(),
  locale: z.string(),
  night: z.boolean(),
  asker: z.string(),
});
type Data = z.infer<typeof dataSchema>;

/**
 * Every listed device finds a form of every resource that something asks for. Where the manifest or another resource
 * asks, the app fails there; where code alone asks, it may do so on other devices only; where nothing does, nobody misses it.
 */
export const missingDefault = defineCheck({
  id: 'missing-default',
  area: 'resources',
  priority: 'cannot-use',
  standard: 'Android developers, App resources overview',
  basis: 'either',
  needs: 'package',
  reads: ['varied-resource'],
  data: dataSchema,
  words: ({ asker, device, forms, level, locale, missing, night, of }, { identity }) => ({
    what: `Some devices find no ${identity.subject} at all`,
    measured: `nothing for ${missing} of ${of} combinations of device, language and theme; only ${forms.map(nameOf).join(', ')}`,
    required: 'a form without qualifiers, which every device finds',
    why:
      asker === 'code'
        ? `Code asks for it. If it does so on a device that matches none (such as ${device}, ${formatLevel(level)}, ${locale}, ${night ? 'night' : 'day'}), the app crashes; it may ask newer devices only.`
        : `${asker === 'manifest' ? 'The manifest' : asker} asks for it. On a device that matches none (such as ${device}, ${formatLevel(level)}, ${locale}, ${night ? 'night' : 'day'}), the app crashes.`,
    remedy: `Add ${identity.subject.split('/')[0]}/ without qualifiers.`,
  }),

  *run(facts, intent) {
    for (const picked of facts.once(pickedResources, intent)) yield judge(picked);
  },

  doc: {
    looksAt:
      'Every resource, picked for every device, language and theme, on the oldest and the newest platform level',
    against: 'A form for each that asks for one. Estimated where code alone asks',
    matters: 'The app crashes on devices that match none of its forms.',
    measured:
      'Every resource, picked for every listed device, language and theme on the oldest and the newest platform level.',
    errs: 'Where code alone asks, it may ask newer devices only, so that it is estimated.',
    fixes: [
      {
        where: 'Folders of res',
        language: 'text',
        code: 'drawable/deck_plan.xml   beside   drawable-land/deck_plan.xml',
      },
    ],
  },
});

function judge({ fact, picks }: PickedResource): Assertion<Data> {
  const unfound = picks.filter(({ form }) => !form).map(({ situation }) => situation);
  const { askedBy = [{ kind: 'code' }] } = fact;
  const certain = askedBy.filter(({ kind }) => kind !== 'code');
  const asked = unfound.flatMap((situation) => {
    const asker = certain.find((of) => asksOn(of, situation));
    return asker ? [{ situation, asker }] : [];
  });
  const byCode = askedBy.some(({ kind }) => kind === 'code');
  if (unfound.length === 0 || (asked.length === 0 && !byCode)) return { outcome: 'passed' };
  const measured = asked.length > 0;
  const { asker, situation } = asked[0] ?? { asker: { kind: 'code' } as const, situation: unfound[0]! };
  const missing = measured ? asked.length : unfound.length;
  const qualifiers = fact.forms.map((form) => form.qualifiers);
  return {
    outcome: measured ? 'failed' : 'cantTell',
    draft: {
      identity: { subject: fact.name },
      basis: measured ? 'measured' : 'estimated',
      severity: missing / picks.length,
      digest: qualifiers.join(' '),
      occurrence: {
        evidence: fact.evidence,
        shown: fact.name,
        data: {
          forms: qualifiers,
          missing,
          of: picks.length,
          device: situation.device.name,
          level: situation.target.sdkVersion,
          locale: situation.locale,
          night: situation.night,
          asker: asker.kind === 'resource' ? asker.name : asker.kind,
        },
      },
    },
  };
}

/** A layout for wide screens alone asks for what wide screens alone have. */
function asksOn(asker: AskedBy, { pick }: Situation): boolean {
  if (asker.kind !== 'resource') return asker.kind === 'manifest';
  const chosen = pick({ configs: () => configsOf(asker.forms.map((qualifiers) => ({ qualifiers }))) });
  return chosen !== undefined && asker.asking.includes(chosen);
}
