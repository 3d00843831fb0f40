/** A message that a script sends is taken by the service: what is tried by hand is tried rarely. */

import { z } from 'zod';
import { defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({ message: z.string(), status: z.number(), reason: z.string() });

export const scriptedPush = defineCheck({
  id: 'scripted-push',
  area: 'push',
  priority: 'wrong',
  standard: 'HTTP status of the messaging service (RFC 9110, section 15)',
  basis: 'measured',
  needs: 'push-run',
  data: dataSchema,
  words: ({ message, reason, status }) => ({
    what: `The script could not send ${message}`,
    measured: `${status}${reason ? ` ${reason}` : ''}`,
    required: 'a message that the service takes (200)',
    why: 'What a script cannot send is sent by hand, before a release, by whoever remembers how.',
    remedy: 'Look what the service says of it: fenlok try payload FILE --send.',
  }),

  *run(facts) {
    for (const { cell, evidence, message, reason = '', status } of facts.of('push-run')) {
      if (status === 200) yield { outcome: 'passed', cell };
      else
        yield {
          outcome: 'failed',
          cell,
          draft: {
            identity: { subject: `message ${message}`, aspect: 'sent' },
            target: { kind: 'message', id: message },
            basis: 'measured',
            severity: 1,
            digest: `${status} ${reason}`,
            occurrence: { evidence, cell, shown: message, data: { message, status, reason } },
          },
        };
    }
  },

  doc: {
    looksAt: 'What the messaging service answered to each message that the drill `push` sent',
    against: 'Status 200',
    matters: 'A message that only a person can send, by hand, is not tried after every fix.',
    measured: 'The status and the reason of each answer.',
    errs: 'A service that is away is not told from a message that it refuses, but by the reason.',
    fixes: [
      {
        where: 'a script',
        language: 'sh',
        code: 'fenlok drill push --dossier dossier',
      },
    ],
  },
});
