/** A malformed or stale link leads to something that can be read, and never to a crash. */

import { z } from 'zod';
import type { LinkRunFact } from '../../../model/facts/links.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { cut } from '../../words.ts';
import { lastLinkRuns } from '../last-link-runs.ts';
import { VARIANTS } from '../words.ts';

type Fault = 'crash' | 'not-responding' | 'blank';

const dataSchema = z.strictObject({
  fault: z.enum(['crash', 'not-responding', 'blank']),
  variant: z.string(),
  url: z.string(),
  exception: z.string(),
  message: z.string(),
  frame: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const malformedLink = defineCheck({
  id: 'malformed-link',
  area: 'links',
  priority: 'app-ends',
  standard: 'OWASP MASVS, MASVS-PLATFORM-1',
  basis: 'measured',
  needs: 'link-run',
  data: dataSchema,
  words: ({ exception, fault, frame, message, url, variant }) => ({
    what: `A ${VARIANTS[variant] ?? 'malformed'} link ${FAULTS[fault]}: ${cut(url)}`,
    measured:
      fault === 'crash'
        ? `${exception}${message ? `: ${cut(message)}` : ''}${frame ? `, in ${frame}` : ''}`
        : fault === 'blank'
          ? 'no text on the screen'
          : 'no answer to a touch',
    required: 'a screen that says what is wrong, or the first one',
    why: 'Links grow old, are cut by mail programs and are made up by strangers: anybody can send this one.',
    remedy:
      'Check the argument before it is used, and open the first screen with a word to the user where it is no good.',
  }),

  *run(facts): Iterable<Assertion<Data>> {
    for (const run of lastLinkRuns(facts)) {
      if (run.probe !== 'hostile') continue;
      const fault = faultOf(run);
      yield fault
        ? { outcome: 'failed', cell: run.cell, draft: draftOf(run, fault) }
        : { outcome: 'passed', cell: run.cell };
    }
  },

  doc: {
    looksAt: 'URLs with missing, malformed, badly escaped or very long parts, fired at a device',
    against: 'No crash, no hang, something to read',
    matters:
      'Links grow old, are cut by mail programs and are made up by strangers. Anybody can send this one.',
    measured: 'URLs with missing, malformed, badly escaped and very long parts are handed to a device.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'val id = intent.data?.lastPathSegment?.takeIf { it.matches(Regex("[A-Z]{2}-\\\\d{1,4}")) } ?: return showStart()',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: 'guard let id = url.pathComponents.last, id.count <= 12 else { return showStart() }',
      },
    ],
  },
});

function faultOf({ crash, inApp, notResponding, texts }: LinkRunFact): Fault | undefined {
  if (crash) return 'crash';
  if (notResponding) return 'not-responding';
  return inApp && texts.length === 0 ? 'blank' : undefined;
}

const SEVERITY: Record<Fault, number> = { crash: 3, 'not-responding': 2, blank: 1 };

const draftOf = (run: LinkRunFact, fault: Fault) => ({
  identity: { subject: `route ${run.route}`, aspect: `${fault} ${run.crash?.frame ?? ''}`.trim() },
  target: { kind: 'route' as const, id: run.route },
  basis: 'measured' as const,
  severity: SEVERITY[fault],
  digest: `${fault} ${run.crash?.exception ?? ''}`,
  occurrence: {
    evidence: run.evidence,
    cell: run.cell,
    shown: run.url.slice(0, 200),
    data: {
      fault,
      variant: run.variant,
      url: run.url.slice(0, 200),
      exception: run.crash?.exception ?? '',
      message: run.crash?.message ?? '',
      frame: run.crash?.frame ?? '',
    },
  },
});

const FAULTS: Record<string, string> = {
  crash: 'ends the app',
  'not-responding': 'makes the app hang',
  blank: 'leads to an empty screen',
};
