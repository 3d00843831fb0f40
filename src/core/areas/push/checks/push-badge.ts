/** Once a message was opened nothing of it is left: neither in the shade, nor on the app's icon, which counts the same. */

import { z } from 'zod';
import type { PushRunFact } from '../../../model/facts/push.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { lastPushRuns } from '../last-push-runs.ts';

const dataSchema = z.strictObject({ message: z.string(), left: z.number(), badge: z.number() });
type Data = z.infer<typeof dataSchema>;

export const pushBadge = defineCheck({
  id: 'push-badge',
  area: 'push',
  priority: 'harder',
  standard: 'Android developers, Notifications overview; Human Interface Guidelines, Notifications',
  basis: 'measured',
  needs: 'push-run',
  data: dataSchema,
  words: ({ badge, left, message }) => ({
    what:
      left > 0
        ? `The message ${message} stays after it was opened`
        : `The icon still counts the message ${message} after it was opened`,
    measured: left > 0 ? `${left} of the app left in the shade` : `${badge} on the icon`,
    required: 'none',
    why: 'The mark on the icon stays too, and the user looks for something that was read.',
    remedy: 'Cancel the message when it is opened (setAutoCancel), and the badge with it.',
  }),

  *run(facts): Iterable<Assertion<Data>> {
    for (const run of lastPushRuns(facts)) {
      const { badge = 0, cell, counts, left, platform, tapped } = run;
      if (!tapped) continue;
      if (platform === 'ios' && counts && run.badge === undefined && left === 0) {
        yield { outcome: 'untested', because: 'no number was ever seen on the icon of the app' };
        continue;
      }
      yield left === 0 && badge === 0
        ? { outcome: 'passed', cell }
        : { outcome: 'failed', cell, draft: draftOf(run) };
    }
  },

  doc: {
    looksAt: 'What is left of a message once it was opened',
    against: 'Nothing',
    matters: 'The mark on the icon stays, and people look for something that they have read.',
    measured:
      'What is left of a message once it was opened: in the shade, and on iOS on the icon after the app was left.',
    errs: 'Launchers of Android that count in their own way are not looked at; on iOS an icon that is not on the page of the home screen in sight is not, either.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'NotificationCompat.Builder(this, "delays").setAutoCancel(true)',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: 'try await UNUserNotificationCenter.current().setBadgeCount(0)',
      },
    ],
  },
});

const draftOf = ({ badge = 0, cell, evidence, left, message }: PushRunFact) => ({
  identity: { subject: `message ${message}` },
  target: { kind: 'message' as const, id: message },
  basis: 'measured' as const,
  severity: left + badge,
  digest: badge > 0 ? `${left} ${badge}` : String(left),
  occurrence: { evidence, cell, shown: message, data: { message, left, badge } },
});
