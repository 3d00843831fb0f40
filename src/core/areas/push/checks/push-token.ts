/**
 * A token comes, in the form that servers expect; the service of the release knows it; another one takes its place after
 * the app was installed again (Apple developer documentation, *Registering your app with APNs*; Firebase documentation, *Best
 * practices for registration token management*).
 */

import { z } from 'zod';
import type { PushTokenFact } from '../../../model/facts/push.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { isFilled } from '../../words.ts';
import { lastOf } from '../last-push-runs.ts';

type Fault =
  | 'none'
  | 'form'
  | 'environment'
  | 'sender'
  | 'refused'
  | 'none-again'
  | 'not-renewed'
  | 'old-accepted';

const dataSchema = z.strictObject({
  fault: z.enum([
    'none',
    'refused',
    'form',
    'environment',
    'sender',
    'none-again',
    'not-renewed',
    'old-accepted',
  ]),
  service: z.enum(['messages', 'gateway']),
  answers: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

export const pushToken = defineCheck({
  id: 'push-token',
  area: 'push',
  priority: 'cannot-use',
  standard: 'Apple, Registering your app with APNs; Firebase, Manage FCM registration tokens',
  basis: 'measured',
  needs: 'push-token',
  data: dataSchema,
  words: ({ answers, fault, service }) => {
    const { measured, remedy, what, why } = TOKENS[fault]!;
    return {
      what,
      measured: isFilled(answers) ? `${measured} (${answers.join(', ')})` : measured,
      required:
        service === 'messages'
          ? "a token that the release's project can send to, renewed after an installation"
          : 'a token of hex digits that production takes, renewed after an installation',
      why,
      remedy,
    };
  },

  *run(facts): Iterable<Assertion<Data>> {
    for (const token of lastOf(facts.of('push-token'), () => '')) {
      const faults = faultsOf(token);
      if (faults.length === 0) yield { outcome: 'passed', cell: token.cell };
      for (const fault of faults) yield { outcome: 'failed', cell: token.cell, draft: draftOf(token, fault) };
    }
  },

  doc: {
    looksAt: 'The token that the app logs, what is answered to messages for it, and after a new installation',
    against:
      'Taken by the project of the release (iOS: by production); another one afterwards, the old one refused',
    matters: 'Without a good token nothing can be sent, and nobody notices.',
    measured:
      'The token that the app logs, what the service answers to a message for it, and the token after a new installation.',
    errs: 'An app that logs no token counts as having none.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'override fun onNewToken(token: String) { Log.i("Fenlok", """{"kind":"push.registered","token":"$token"}"""); server.send(token) }',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: 'let text = deviceToken.map { String(format: "%02x", $0) }.joined()',
      },
    ],
  },
});

function faultsOf({ answers, reinstalled, service, token }: PushTokenFact): Fault[] {
  if (!token) return ['none'];
  const answerOf = (environment: string) => answers.find((one) => one.environment === environment)?.status;
  const [production, development] = [answerOf('production'), answerOf('development')];
  const isTaken = production === 200 || development === 200;
  const isMessages = service === 'messages';
  const isOfOther = answers.some(
    ({ environment, reason }) => environment === 'production' && reason === 'SENDER_ID_MISMATCH',
  );
  const isMalformed = answers.every(({ reason }) => reason === 'INVALID_ARGUMENT');
  const faults: [Fault, boolean][] = [
    // what is taken has the right form, whatever it looks like
    ['form', !isTaken && (isMessages ? answers.length > 0 && isMalformed : !token.isHex)],
    ['environment', !isMessages && production !== undefined && production !== 200 && development === 200],
    ['sender', isMessages && isOfOther],
    ['refused', answers.length > 0 && !isTaken && !isOfOther],
    ['none-again', reinstalled !== undefined && !reinstalled.isToken],
    ['not-renewed', reinstalled?.isToken === true && !reinstalled.isRenewed],
    ['old-accepted', reinstalled !== undefined && reinstalled.oldStatus === 200],
  ];
  return faults.flatMap(([fault, holds]) => (holds ? [fault] : []));
}

const SEVERITY: Record<Fault, number> = {
  none: 5,
  refused: 4,
  environment: 4,
  sender: 4,
  'none-again': 3,
  'not-renewed': 2,
  'old-accepted': 2,
  form: 1,
};

const draftOf = ({ answers, cell, evidence, service }: PushTokenFact, fault: Fault) => ({
  identity: { subject: 'token', aspect: fault },
  basis: 'measured' as const,
  severity: SEVERITY[fault],
  digest: fault,
  occurrence: {
    evidence,
    cell,
    shown: fault,
    data: {
      fault,
      service,
      answers: answers.map(({ environment, reason = '', status }) =>
        `${environment}: ${status} ${reason}`.trim(),
      ),
    },
  },
});

const TOKENS: Record<string, { what: string; measured: string; why: string; remedy: string }> = {
  none: {
    what: 'The app reports no token',
    measured: 'no line {"kind":"push.registered","token":"…"} in its log after the permission was given',
    why: 'Without a token nothing can be sent to it; or it keeps it to itself, and nobody can try.',
    remedy:
      'Register after the permission was given, and print the token under the tag Fenlok in builds that are tested.',
  },
  form: {
    what: 'The token is not in the form that servers take',
    measured: 'refused as no token',
    why: 'A description of the token, or a part of it, reaches no device.',
    remedy: 'On iOS turn the bytes into two hex digits each; on Android hand the token on as it is.',
  },
  environment: {
    what: 'The token is one of the development gateway',
    measured: 'the production gateway refuses it, the development gateway takes it',
    why: 'Servers send to production, and nobody gets a message.',
    remedy:
      'Register the release with production: sign it for distribution, or choose the environment by the build.',
  },
  sender: {
    what: 'The token is one of another project',
    measured: 'the project of the release may not send to it',
    why: 'The app was built with the configuration of another project, so that no message of the release arrives.',
    remedy: 'Build the release with the configuration file of the project that sends (google-services.json).',
  },
  refused: {
    what: 'Nobody can send to the token',
    measured: 'refused',
    why: 'Nobody gets a message.',
    remedy: 'Look whether the key or account that sends belongs to this app.',
  },
  'none-again': {
    what: 'After it was installed again the app reports no token',
    measured: 'none',
    why: 'The server goes on with a token that is no longer good.',
    remedy: 'Register at each start, and send the token to the server when it changes.',
  },
  'not-renewed': {
    what: 'After it was installed again the app reports its old token',
    measured: 'the same token',
    why: 'It was kept where an installation does not reach (a backup, the key chain), and is refused.',
    remedy: 'Ask the system for the token at each start, and keep none.',
  },
  'old-accepted': {
    what: 'The token of an app that was removed is still taken',
    measured: 'status 200',
    why: 'Messages go to nobody, and the list of tokens grows.',
    remedy: 'Delete a token when the answer is 410 (iOS) or 404 UNREGISTERED (Android).',
  },
};
