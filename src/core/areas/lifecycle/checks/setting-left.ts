/** Every device setting that a drill borrowed reads as it did before. */

import { z } from 'zod';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({
  setting: z.string(),
  deviceId: z.string(),
  was: z.string(),
  now: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const settingLeft = defineCheck({
  id: 'setting-left',
  area: 'lifecycle',
  priority: 'harder',
  standard: "Fenlok's own rule for drills",
  basis: 'measured',
  needs: 'borrowed-setting',
  data: dataSchema,
  words: ({ deviceId, now, setting, was }) => ({
    what: `The setting ${setting} of ${deviceId} was not restored`,
    measured: now,
    required: `${was}, as it was before`,
    why: 'A phone that is left in test settings surprises whoever uses it next, and spoils what is measured on it.',
    remedy: 'Run  fenlok drill --put-back  with the device attached.',
  }),

  *run(facts): Iterable<Assertion<Data>> {
    // a setting that a later run restored is right again
    const last = new Map(
      [...facts.of('borrowed-setting')]
        .sort((a, b) => (a.at < b.at ? -1 : 1))
        .map((fact) => [`${fact.deviceId} ${fact.setting}`, fact]),
    );
    for (const { deviceId, evidence, now, setting, was } of last.values()) {
      if (now === was) yield { outcome: 'passed' };
      else
        yield {
          outcome: 'failed',
          draft: {
            identity: { subject: setting, aspect: deviceId },
            basis: 'measured',
            severity: 1,
            digest: `${now}`,
            occurrence: {
              evidence,
              shown: setting,
              data: { setting, deviceId, was: was ?? 'no value', now: now ?? 'no value' },
            },
          },
        };
    }
  },

  doc: {
    looksAt: 'Every device setting that a drill changed, read again after it was restored',
    against: 'What it was before',
    matters:
      'A phone that is left in test settings surprises whoever uses it next, and spoils what is measured on it.',
    measured: 'Every setting that a drill changed, read again after it was restored.',
    errs: 'Nothing known.',
    fixes: [{ where: 'From a terminal', language: 'sh', code: 'fenlok drill --put-back' }],
  },
});
