/** The question for a rating on stand-in phones whose builds came by each way, and apps that differ from the demo's in one thing. */
import { join } from 'node:path';
import { indexFacts } from '../../src/core/areas/check.ts';
import { checks } from '../../src/core/areas/checks.ts';
import { collectFindings } from '../../src/core/checklist/collect-findings.ts';
import type { Intent } from '../../src/core/model/intent.ts';
import type { RatingChannel } from '../../src/core/model/rating.ts';
import { openDevice } from '../../src/device/bridge/open-device.ts';
import { drillDevice } from '../../src/device/drill-session.ts';
import type { PhoneApp, ScreenHost, ScreenModel } from '../../src/standins/phone/app-model.ts';
import { kelpline } from '../../src/standins/phone/apps/kelpline/kelpline.ts';
import { kelplineDossier, kelplineIntent } from '../support/drill-bench.ts';
import { scratchFolder } from '../support/paths.ts';
import { bootPhone } from '../support/served-phone.ts';

const scratch = scratchFolder();
const say = (host: ScreenHost, line: object) => host.log('Fenlok', JSON.stringify(line));
const asked = (host: ScreenHost, moment = 'done') => say(host, { kind: 'rating.asked', moment });

/** Kelpline without its own defects of this kind: asks once, and goes on. */
const good: PhoneApp = {
  ...kelpline,
  screens: {
    ...kelpline.screens,
    booking: {
      ...kelpline.screens.booking!,
      taps: {
        ...kelpline.screens.booking!.taps,
        pay: (host) => {
          if (host.storage.has('was asked')) {
            host.open('tickets', { alone: true });
            return;
          }
          host.storage.set('was asked', '1');
          asked(host);
          host.askForRating();
        },
      },
    },
  },
  ratingFinished: (host) => {
    say(host, { kind: 'rating.finished' });
    host.open('tickets', { alone: true });
  },
};
const withPay = (pay: (host: ScreenHost) => void, of: Partial<PhoneApp> = {}): PhoneApp => ({
  ...good,
  ...of,
  screens: {
    ...good.screens,
    booking: { ...good.screens.booking!, taps: { ...good.screens.booking!.taps, pay } },
  },
});
const withStart = (created: ScreenModel['created']): PhoneApp => ({
  ...good,
  screens: { ...good.screens, timetable: { ...good.screens.timetable!, created } },
});

let runs = 0;
async function drill(app: PhoneApp, channel: RatingChannel, said?: Intent['ratings']['channel']) {
  const phone = await bootPhone({ apps: [app] });
  for (const one of phone.os.packages.all()) one.channel = channel;
  const stateFolder = join(scratch, 'state');
  const device = await openDevice(phone.address, { stateFolder });
  const intent: Intent = { ...kelplineIntent, ratings: { ...kelplineIntent.ratings, channel: said } };
  try {
    const { results } = await drillDevice(device, {
      dossier: await kelplineDossier(join(scratch, `dossier-${++runs}`)),
      intent,
      stateFolder,
      wanted: { drills: ['ratings'] },
    });
    const facts = indexFacts(results.flatMap((result) => result.facts));
    const reports = collectFindings(
      checks.filter(({ area }) => area === 'ratings'),
      facts,
      intent,
    );
    const shown = reports.find(({ check }) => check.id === 'rating-shown')!;
    return {
      found: reports
        .flatMap(({ findings }) => findings)
        .map(({ check, identity }) => `${check} ${identity.aspect}`)
        .sort(),
      passed: shown.passed,
      unseen: shown.unseen.join(),
      prompts: facts.of('rating-round').map(({ prompt }) => prompt),
    };
  } finally {
    await device.close();
    await phone.close();
  }
}

test('the demo app: what is planted', async () => {
  const { found, prompts } = await drill(kelpline, 'private-share', 'private-share');
  expect(found).toEqual(['rating-manner claim', 'rating-manner thanks', 'rating-moment again']);
  expect(prompts).toEqual([false, true, true]);
});

test.each<[RatingChannel, said: RatingChannel | undefined, shown: boolean, why: string]>([
  // no installer is named: nobody has to say it
  ['local', undefined, false, 'nothing is ever shown in a build of this kind (local)'],
  ['private-share', 'private-share', true, ''],
  ['test-track', 'test-track', true, ''],
  ['production', undefined, true, ''],
])('a good app, come by %s', async (channel, said, isShown, why) => {
  const { found, passed, prompts, unseen } = await drill(good, channel, said);
  expect(found).toEqual([]);
  expect([passed, prompts[1]]).toEqual([isShown ? 1 : 0, isShown]);
  expect(unseen).toContain(why);
});

test.each<
  [what: string, app: PhoneApp, channel: RatingChannel, said: RatingChannel | undefined, found: string[]]
>([
  [
    'the quota of a track is used up at the first time: the second shows nothing, and is no fault',
    withPay((host) => {
      asked(host);
      host.askForRating();
    }),
    'test-track',
    'test-track',
    ['rating-moment again'],
  ],
  [
    'asked at the first start',
    withStart((host) => {
      asked(host, 'start');
      host.askForRating();
    }),
    'private-share',
    'private-share',
    // from then on the question stands in the way
    ['rating-moment start'],
  ],
  [
    'it waits for an answer',
    withPay(
      (host) => {
        asked(host, 'done');
        host.askForRating();
      },
      { ratingFinished: (host) => say(host, { kind: 'rating.finished' }) },
    ),
    'local',
    undefined,
    ['rating-moment again', 'rating-wait not shown'],
  ],
  [
    'it never asks where it would be shown',
    withPay((host) => host.open('tickets', { alone: true })),
    'private-share',
    'private-share',
    ['rating-shown shown'],
  ],
])('%s', async (_, app, channel, said, found) => {
  expect((await drill(app, channel, said)).found).toEqual(found);
});
