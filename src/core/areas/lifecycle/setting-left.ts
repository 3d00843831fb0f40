/** Every device setting that a drill borrowed reads as it did before. */
import type { Assertion, Check } from '../check.ts';

export const settingLeft = {
  id: 'setting-left',
  area: 'lifecycle',
  needs: ['borrowed-setting'],
  *run(facts): Iterable<Assertion> {
    // a setting that a later run put back is back
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
} satisfies Check;
