/** Checks on captures or traces alone, with an intent that asks for much more. */
import { join } from 'node:path';
import { factsOfTrace, findInTrace, findOnScreens, type TraceLine } from '../../../src/core/index.ts';
import { readIntent } from '../../../src/node/project.ts';
import { root } from '../../support/paths.ts';

const at = (minute: number) => `2026-11-27T12:${String(minute).padStart(2, '0')}:00Z`;

test('what was not looked at is neither found nor in the way', async () => {
  const intent = await readIntent(join(root, 'demo/kelpline/fenlok.yaml'));
  expect(findOnScreens([], intent)).toEqual([]);
  const nothing = findInTrace([], intent);
  expect(nothing.findings).toEqual([]);
  for (const { cells } of [...nothing.situations.rows, ...nothing.ads.rows])
    for (const { outcome } of cells) expect(['untested', 'inapplicable']).toContain(outcome);
});

test('of a trace what costs most comes first, and its cells name their findings', async () => {
  const intent = await readIntent(join(root, 'demo/kelpline/fenlok.yaml'));
  const of = { account: 'ada', device: 'one' };
  const sale = { product: 'crossings.10', productKind: 'consumable', transaction: '1', original: '1' };
  const lines: TraceLine[] = [
    { at: at(0), kind: 'ad.device', device: 'one', isDevelopment: true, registered: [] },
    { at: at(1), kind: 'store.bought', ...of, ...sale },
    { at: at(1), kind: 'purchase.granted', device: 'one', product: 'crossings.10', transaction: '1' },
    { at: at(3), kind: 'purchase.granted', device: 'one', product: 'crossings.10', transaction: '1' },
    { at: at(4), kind: 'access.now', device: 'one', products: ['no-ads'] },
    { at: at(5), kind: 'ad.initialised', device: 'one', network: 'northmast' },
    { at: at(5), kind: 'consent.given', device: 'one' },
    {
      at: at(6),
      kind: 'ad.requested',
      device: 'one',
      placement: 'timetable-banner',
      network: 'northmast',
      test: false,
    },
    {
      at: at(7),
      kind: 'ad.failed',
      device: 'one',
      placement: 'timetable-banner',
      network: 'northmast',
      reason: 'x',
    },
  ];
  const { ads, findings, situations } = findInTrace(
    factsOfTrace({ digest: 'd', platform: 'android', lines }),
    intent,
  );
  expect(findings.map(({ check, identity }) => `${check} ${identity.aspect}`)).toEqual([
    'live-ad-request live',
    'unfinished-purchase unfinished',
    'unfinished-purchase granted-twice',
    'unpaid-purchase granted-unpaid',
    'ad-load northmast',
  ]);
  const finished = situations.rows.find(({ name }) => name === 'finished')!;
  const cell = finished.cells[situations.columns.indexOf('crossings.10')]!;
  expect(cell).toMatchObject({ outcome: 'failed' });
  expect(cell.findings).toEqual(findings.slice(1, 3).map(({ id }) => id));
  expect(ads.rows[0]).toMatchObject({ name: 'timetable-banner · northmast' });
  expect(ads.rows[0]!.cells.at(-1)).toMatchObject({ outcome: 'failed', findings: [findings[4]!.id] });
});
