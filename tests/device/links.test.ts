/** Links fired at the stand-in phone: what the drill writes down of them, and what comes of it. */
import { join } from 'node:path';
import { indexFacts } from '../../src/core/areas/check.ts';
import { checks } from '../../src/core/areas/checks.ts';
import { observeLinkRuns } from '../../src/core/areas/links/observers/observe-link-runs.ts';
import { collectFindings } from '../../src/core/checklist/collect-findings.ts';
import { MatrixContext } from '../../src/core/checklist/matrices/matrix.ts';
import { routesMatrix } from '../../src/core/checklist/matrices/routes.ts';
import { decodeTrace } from '../../src/core/formats/trace.ts';
import type { LinkRunFact } from '../../src/core/model/facts/links.ts';
import { type Intent, intentSchema } from '../../src/core/model/intent.ts';
import type { AndroidDevice } from '../../src/device/android/android-device.ts';
import { openDevice } from '../../src/device/bridge/open-device.ts';
import { drillDevice } from '../../src/device/drill-session.ts';
import { fireLinks } from '../../src/device/drills/walks/fire-links.ts';
import type { Dossier } from '../../src/node/dossier.ts';
import { observeDossier } from '../../src/node/observe.ts';
import { addSiteFile } from '../../src/node/site-files.ts';
import type { ServedPhone } from '../../src/standins/phone/bridge/serve-phone.ts';
import { shapes } from '../../src/standins/phone/shapes.ts';
import { kelplineDossier, kelplineIntent, subjectOn } from '../support/drill-bench.ts';
import { demoFolder, scratchFolder } from '../support/paths.ts';
import { bootPhone, kelplineSites } from '../support/served-phone.ts';

const scratch = scratchFolder();
const stateFolder = join(scratch, 'state');
let phone: ServedPhone;
let device: AndroidDevice;
let dossier: Dossier;

beforeAll(async () => {
  phone = await bootPhone({ sites: kelplineSites() });
  device = await openDevice(phone.address, { stateFolder });
  dossier = await kelplineDossier(join(scratch, 'dossier'));
  for (const host of kelplineSites().keys())
    await addSiteFile(dossier, join(demoFolder, 'site', host, '.well-known/assetlinks.json'));
});
afterAll(async () => {
  await device.close();
  await phone.close();
});

async function fire(intent: Intent, isRerun = false): Promise<LinkRunFact[]> {
  const { results } = await drillDevice(device, {
    dossier,
    intent,
    stateFolder,
    wanted: { drills: ['links'] },
    isRerun,
  });
  expect(results.flatMap(({ trouble }) => trouble ?? [])).toEqual([]);
  return results.flatMap(({ facts }) => facts.filter((fact) => fact.kind === 'link-run'));
}

test('every route, cold, warm and in front, and what it all comes to', async () => {
  const runs = await fire(kelplineIntent);
  const of = (route: string, how: string, addressed = false) =>
    runs.find(
      (run) => run.probe === 'good' && run.route === route && run.how === how && run.addressed === addressed,
    );
  for (const how of ['cold', 'warm', 'front']) {
    expect(of('pass', how)).toMatchObject({ inApp: true, landed: 'example.kelpline/.PassActivity' });
    // the package keeps them out: one is not for browsers, one not for others, one has the wrong scheme
    for (const route of ['sailing', 'alerts']) {
      expect(of(route, how)).toMatchObject({ inApp: false, started: 'com.android.browser/.BrowserActivity' });
      expect(of(route, how, true)).toMatchObject({ inApp: false, started: '' });
    }
    expect(of('tickets', how)).toMatchObject({ inApp: false, started: '' });
    expect(of('offers', how)).toMatchObject({ started: 'com.android.intentresolver/.ResolverActivity' });
  }
  expect(of('sailing-in-app', 'cold')!.texts).not.toContain('18:30');
  expect(of('sailing-in-app', 'warm')).toMatchObject({ told: { sailing: '2' } });
  expect(of('sailing-in-app', 'front')!.texts).toContain('18:30');
  expect(of('sailing-in-app', 'front')!.backChain).toEqual(['example.kelpline/.TimetableActivity', '']);
  const crashed = runs.filter(({ crash }) => crash).map(({ how, variant }) => `${variant} ${how}`);
  expect([...new Set(crashed)]).toEqual(['argument-malformed front']);

  const facts = indexFacts(await observeDossier(dossier, { catalogues: [] }));
  const findings = collectFindings(checks, facts, kelplineIntent).flatMap((report) => report.findings);
  const { columns, rows } = routesMatrix.table(new MatrixContext(facts, kelplineIntent, findings, false));
  const table = Object.fromEntries(
    rows.map(({ cells, name }) => [name, cells.map(({ outcome }) => outcome[0]).join('')]),
  );
  expect(columns).toEqual(['declared', 'site agrees', 'cold', 'warm', 'in front', 'variants', 'malformed']);
  expect(table).toEqual({
    'kelpline://timetable': 'pipffpp',
    '/sailings/{sailing}': 'fiuuuuu',
    'kelpline://sailings/{sailing}': 'pifppff',
    'kelpline://tickets': 'fiuuuuu',
    '/pass': 'pfppppp',
    '/alerts': 'ffuuupu',
    'kelpline://offers': 'fiuuuuu',
  });
});

test('on a small phone what stands further down is looked at, too', async () => {
  const small = await bootPhone({ shape: shapes.small, sites: kelplineSites() });
  const other = await openDevice(small.address, { stateFolder });
  const { routes } = kelplineIntent.links;
  const intent = {
    ...kelplineIntent,
    links: { ...kelplineIntent.links, routes: routes.filter(({ id }) => id === 'sailing-in-app') },
  };
  const subject = await subjectOn(other, dossier, stateFolder);
  const lines = await fireLinks(subject, intent, 'sailing-in-app');
  await other.close();
  await small.close();
  const decoded = await decodeTrace('t', lines.map((line) => JSON.stringify(line)).join('\n'));
  const runs = [...observeLinkRuns.observe({ digest: 't', platform: 'android', lines: decoded })];
  const of = (how: string) => runs.find((run) => run.how === how && run.probe === 'good')!;
  expect(of('front').texts).toContain('18:30');
  expect(of('warm').texts).toContain('18:30');
  expect(of('cold').texts).not.toContain('18:30');
});

test('what was fired is not fired again, unless it is asked for; a screen or a text that is not there is told', async () => {
  expect(await fire(kelplineIntent)).toEqual([]);
  const { routes } = kelplineIntent.links;
  const wrong = intentSchema.parse({
    ...kelplineIntent,
    links: {
      ...kelplineIntent.links,
      routes: [
        { ...routes.find(({ id }) => id === 'pass')!, screen: 'alerts' },
        { ...routes.find(({ id }) => id === 'timetable')!, shows: ['No such boat'] },
      ],
    },
  });
  const runs = await fire(wrong, true);
  const found = collectFindings(
    checks.filter(({ id }) => id === 'link-landing'),
    indexFacts([
      ...(await observeDossier(dossier, { catalogues: [] })).filter(({ kind }) => kind !== 'link-run'),
      ...runs,
    ]),
    wrong,
  ).flatMap((report) => report.findings.map(({ identity }) => `${identity.subject} ${identity.aspect}`));
  expect(found.sort()).toEqual([
    ...['cold', 'front', 'warm'].map((how) => `route pass other-screen ${how}`),
    ...['cold', 'front', 'warm'].map((how) => `route timetable argument-lost ${how}`),
  ]);
});
