/** Drills were called otherwise before: traces, lists and rulings of that time hold. */
import { checks } from '../../../src/core/areas/checks.ts';
import { assembleChecklist } from '../../../src/core/checklist/assemble-checklist.ts';
import { factsOfTrace } from '../../../src/core/checklist/find-in-trace.ts';
import { findingDigest, findingId } from '../../../src/core/checklist/finding-id.ts';
import { judgeFacts } from '../../../src/core/checklist/judge-facts.ts';
import { decodeTrace } from '../../../src/core/formats/trace.ts';
import { checklistSchema } from '../../../src/core/model/checklist.ts';
import { rulingsFileSchema } from '../../../src/core/model/ruling.ts';
import { aBuild, aCell, observeApp } from '../../support/facts.ts';

const CRASH = 'java.lang.IllegalStateException: no anchor';

const traceOf = (drill: string) =>
  [
    {
      kind: 'drill.began',
      drill,
      cell: { ...aCell, screen: 'app', procedure: drill },
      appId: aBuild.appId,
      build: aBuild,
      deviceId: 'd1',
      sdk: 34,
      densityDpi: 420,
    },
    ...['FATAL EXCEPTION: main', `Process: ${aBuild.appId}, PID: 7`, CRASH].map((message) => ({
      kind: 'log.line',
      tag: 'AndroidRuntime',
      pid: 7,
      message,
    })),
    { kind: 'drill.ended' },
  ]
    .map((line) => JSON.stringify({ at: '2026-11-29T12:00:00.000Z', ...line }))
    .join('\n');

const factsOf = async (drill: string) =>
  factsOfTrace({ digest: 't', platform: 'android', lines: await decodeTrace('t.jsonl', traceOf(drill)) });

test.each([
  ['buy-flows', 'purchases'],
  ['load-ads', 'ads'],
])('%s is %s', async (former, now) => {
  expect(await factsOf(former)).toEqual(await factsOf(now));
  const own = checklistSchema.parse({
    fenlok: 'checklist/1',
    name: 'own',
    items: [{ id: 'x', area: 'ads', shows: 'X.', level: 'advisory', by: { drill: former } }],
  });
  expect(own.items[0]!.by.drill).toBe(now);
  expect(assembleChecklist(own, undefined, []).items[0]!.by.drill).toBe(now);
});

test('a ruling on a crash in a drill of that name holds', async () => {
  const facts = [...observeApp({}), ...(await factsOf('buy-flows'))];
  const [crash] = judgeFacts(facts, { checks }).findings.filter(({ check }) => check === 'crash');
  expect(crash!.identity.aspect).toBe('purchases');
  const before = findingId('crash', { ...crash!.identity, aspect: 'buy-flows' });
  const rulings = rulingsFileSchema.parse({
    fenlok: 'rulings/1',
    rulings: [
      {
        finding: before,
        digest: findingDigest([crash!.occurrences[0]!.shown]),
        ruling: 'false-alarm',
        why: 'the stand-in',
        by: 'Ada',
        at: '2026-11-01',
      },
    ],
  });
  const again = judgeFacts(facts, { rulings });
  expect(again.lapsed).toEqual([]);
  expect(again.findings.find(({ id }) => id === crash!.id)!.ruling?.by).toBe('Ada');
});
