/** What an app's own lines and a drill's show of its question for a rating. */
import type { Check } from '../../../src/core/areas/check.ts';
import { ratingManner } from '../../../src/core/areas/ratings/checks/rating-manner.ts';
import { ratingMoment } from '../../../src/core/areas/ratings/checks/rating-moment.ts';
import { ratingShown } from '../../../src/core/areas/ratings/checks/rating-shown.ts';
import { ratingWait } from '../../../src/core/areas/ratings/checks/rating-wait.ts';
import { observeRatingRounds } from '../../../src/core/areas/ratings/observers/observe-rating-rounds.ts';
import { decodeTrace } from '../../../src/core/formats/trace.ts';
import type { Platform } from '../../../src/core/model/candidate.ts';
import type { Fact } from '../../../src/core/model/fact.ts';
import { intentSchema } from '../../../src/core/model/intent.ts';
import type { RatingChannel } from '../../../src/core/model/rating.ts';
import { aBuild, departures, run } from '../../support/facts.ts';

type Line = [kind: string, of?: object, day?: number];

async function factsOf(lines: readonly Line[], platform: Platform = 'android'): Promise<Fact[]> {
  const text = lines
    .map(([kind, of, day = 0], i) =>
      JSON.stringify({ at: new Date(Date.UTC(2026, 0, 1 + day, 10, 0, i)).toISOString(), kind, ...of }),
    )
    .join('\n');
  const decoded = await decodeTrace('t.jsonl', text);
  return [...observeRatingRounds.observe({ digest: 't', platform, lines: decoded })];
}

const intentOf = (channel?: RatingChannel) =>
  intentSchema.parse({ fenlok: 'intent/1', app: { id: aBuild.appId }, ratings: { channel } });

const done = { moment: 'done' };
const drill = (more: Line[], installer = ''): Line[] => [
  ['rating.channel', { installer }],
  ['rating.round', { round: 'moment' }],
  ...more,
];

test.each<[what: string, check: Check, lines: Line[], found: string[], platform?: Platform]>([
  ['done', ratingMoment, [['rating.asked', done]], []],
  ['at the start', ratingMoment, [['rating.asked', { moment: 'start' }]], ['start']],
  ['on a button', ratingMoment, [['rating.asked', { moment: 'button' }]], ['button']],
  ['in the middle', ratingMoment, [['rating.asked', { moment: 'during' }]], ['during']],
  ['after a crash, it says', ratingMoment, [['rating.asked', { moment: 'after-crash' }]], ['after-crash']],
  [
    'three times in a year on iOS',
    ratingMoment,
    [0, 100, 300].map((day): Line => ['rating.asked', done, day]),
    [],
    'ios',
  ],
  [
    'four times in a year',
    ratingMoment,
    [0, 100, 200, 300].map((day): Line => ['rating.asked', done, day]),
    ['too-often'],
    'ios',
  ],
  [
    'four times, over more',
    ratingMoment,
    [0, 130, 260, 390].map((day): Line => ['rating.asked', done, day]),
    [],
    'ios',
  ],
  ['own stars before', ratingManner, [['rating.stars'], ['rating.asked', done]], ['own-stars']],
  ['own stars afterwards', ratingManner, [['rating.asked', done], ['rating.stars']], []],
  ['thanks', ratingManner, [['rating.asked', done], ['rating.thanked']], ['thanks']],
  [
    'goods',
    ratingManner,
    [
      ['rating.asked', done],
      ['rating.thanked', { gave: '5 coins' }],
    ],
    ['goods'],
  ],
  [
    'claimed',
    ratingManner,
    [
      ['rating.asked', done],
      ['rating.finished', { shown: true }],
    ],
    ['claim'],
  ],
  ['not claimed', ratingManner, [['rating.asked', done], ['rating.finished']], []],
  [
    'it goes on',
    ratingWait,
    drill([
      ['rating.asked', done],
      ['rating.after', { ready: true }],
    ]),
    [],
  ],
  [
    'it does not',
    ratingWait,
    drill([
      ['rating.asked', done],
      ['rating.after', { ready: false }],
    ]),
    ['not shown'],
  ],
  [
    'nor after it was closed',
    ratingWait,
    drill([
      ['rating.asked', done],
      ['rating.front', { prompt: true }],
      ['rating.after', { ready: false }],
    ]),
    ['closed'],
  ],
])('%s', async (_, check, lines, found, platform = 'android') => {
  const assertions = run(check, await factsOf(lines, platform), intentOf());
  expect(departures(assertions)).toEqual(found.map((aspect) => `failed rating ${aspect}`));
  expect(assertions.map(({ outcome }) => outcome)).toContain(found.length > 0 ? 'failed' : 'passed');
});

// what the platforms' own documentation says of each way
test.each<[Platform, RatingChannel | undefined, installer: string, outcome: string]>([
  ['android', undefined, '', 'untested'],
  ['android', 'private-share', 'com.android.vending', 'failed'],
  ['android', 'test-track', 'com.android.vending', 'untested'],
  ['android', 'production', 'com.android.vending', 'untested'],
  ['android', undefined, 'com.android.vending', 'untested'],
  ['ios', 'local', '', 'failed'],
  ['ios', 'beta', '', 'untested'],
  ['ios', 'production', '', 'untested'],
])('nothing shown on %s, %s, installed by "%s": %s', async (platform, channel, installer, outcome) => {
  const lines = drill(
    [
      ['rating.asked', done],
      ['rating.front', { prompt: false }],
    ],
    installer,
  );
  const [one] = run(ratingShown, await factsOf(lines, platform), intentOf(channel));
  expect(one!.outcome).toBe(outcome);
  const seen = drill(
    [
      ['rating.asked', done],
      ['rating.front', { prompt: true }],
    ],
    installer,
  );
  expect(run(ratingShown, await factsOf(seen, platform), intentOf(channel))).toMatchObject([
    { outcome: 'passed' },
  ]);
});

test('what the app does not say is not known', async () => {
  const facts = await factsOf([['rating.asked']]);
  expect(run(ratingMoment, facts, intentOf())).toMatchObject([{ outcome: 'untested' }]);
  // without a drill nobody has looked whether it was shown, and whether it went on
  expect(run(ratingShown, facts, intentOf())).toMatchObject([{ outcome: 'untested' }]);
  expect(run(ratingWait, facts, intentOf())).toEqual([]);
});
