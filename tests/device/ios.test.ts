/** Drills on an iOS device through a lookout: the same code as on Android, what each run comes to, and what goes wrong on the line. */
import { readFileSync } from 'node:fs';
import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { standinTools } from '../../src/cli/commands/demo/surroundings.ts';
import { wayBack } from '../../src/core/areas/lifecycle/checks/way-back.ts';
import { classOfRun } from '../../src/core/areas/lifecycle/runs/class-of-run.ts';
import { parseCapture } from '../../src/core/formats/capture.ts';
import { formatCell } from '../../src/core/model/cell.ts';
import { drillIds, isDriven } from '../../src/core/model/drill.ts';
import { intentSchema } from '../../src/core/model/intent.ts';
import type { RoamMap } from '../../src/core/model/roam-map.ts';
import { drillDevice, planFor } from '../../src/device/drill-session.ts';
import { whyNotOn } from '../../src/device/drills/drill.ts';
import { allDrills } from '../../src/device/drills/drills.ts';
import { factsOfLines } from '../../src/device/drills/keep-trace.ts';
import { processDeath } from '../../src/device/drills/on-screen/process-death.ts';
import { runScreenDrill } from '../../src/device/drills/on-screen/run-screen-drill.ts';
import type { ScreenDrill } from '../../src/device/drills/on-screen/screen-drill.ts';
import { drillHere } from '../../src/device/in-hand/drill-here.ts';
import { lookHere } from '../../src/device/in-hand/look-here.ts';
import { findCandidate } from '../../src/device/installed-build.ts';
import { IosTools } from '../../src/device/ios/device-tools.ts';
import { type IosDevice, openLookout } from '../../src/device/ios/ios-device.ts';
import { makeKnown } from '../../src/device/ios/known-lookouts.ts';
import { openPhone } from '../../src/device/open-phone.ts';
import { NoDump, type OutOfReach } from '../../src/device/out-of-reach.ts';
import { openOverrides } from '../../src/device/overrides/setting-overrides.ts';
import { listCaptures } from '../../src/node/captures.ts';
import { addPackage, type Dossier, openDossier } from '../../src/node/dossier.ts';
import { judgeDossier } from '../../src/node/judge-dossier.ts';
import { readProject } from '../../src/node/project.ts';
import type { PhoneApp, ScreenModel } from '../../src/standins/phone/app-model.ts';
import { kelplineIos } from '../../src/standins/phone/apps/kelpline/ios.ts';
import { kelpline } from '../../src/standins/phone/apps/kelpline/kelpline.ts';
import type { ServedLookout } from '../../src/standins/phone/ios/serve-lookout.ts';
import { formatClass, kelplineIntent, screenOf } from '../support/drill-bench.ts';
import { departures, run } from '../support/facts.ts';
import { converse } from '../support/lookout-conversation.ts';
import { demoFolder, scratchFolder } from '../support/paths.ts';
import { bootLookout, bootWithTools, demoIpa, scriptedLookout } from '../support/served-lookout.ts';

const scratch = scratchFolder();
const stateFolder = join(scratch, 'state');
let served: ServedLookout;
let device: IosDevice;
let dossier: Dossier;

const dossierIn = async (name: string): Promise<Dossier> => {
  await addPackage(join(scratch, name), demoIpa);
  return openDossier(join(scratch, name));
};

beforeAll(async () => {
  served = await bootWithTools(stateFolder);
  device = await openLookout(served.address, served.token);
  dossier = await dossierIn('dossier');
});
afterAll(async () => {
  await device.close();
  await served.close();
});

const drill = (wanted: Parameters<typeof drillDevice>[1]['wanted'], intent = kelplineIntent) =>
  drillDevice(device, { dossier, intent, stateFolder, wanted, isRerun: true });

test('what is judged as driven on iOS is what the device can do with tools that install, and the rest is left out with its reason', async () => {
  expect(whyNotOn({ needs: ['fresh-install'] }, device)).toMatch(/ios\.commands/);
  device.useTools({
    commands: standinTools(stateFolder),
    appId: 'example.kelpline',
    packageFile: demoIpa,
  });
  const driven = allDrills.filter((one) => !whyNotOn(one, device)).map(({ id }) => id);
  expect([...driven].sort()).toEqual(drillIds.filter((id) => isDriven(id, 'ios')).sort());
  const { left } = await planFor(device, { dossier, intent: kelplineIntent, wanted: { drills: drillIds } });
  for (const id of drillIds.filter((one) => !isDriven(one, 'ios')))
    expect(left.find(({ what }) => what === id)?.why).toMatch(/iOS|UI test/);
});

test('a tool is told which app is meant, whatever was looked at before', async () => {
  const fresh = await openLookout(served.address, served.token);
  const demands = (app: string) => [
    process.execPath,
    '-e',
    'process.exit(Number(process.argv[1] !== process.argv[2]))',
    '{app}',
    app,
  ];
  const commands = { install: demands('example.kelpline'), uninstall: demands('example.other') };
  fresh.useTools({ commands, appId: 'example.kelpline', packageFile: demoIpa });
  expect(await fresh.install()).toBeUndefined();
  await fresh.uninstall('example.other');
  await expect(fresh.uninstall('example.kelpline')).rejects.toThrow(/ios\.commands\.uninstall failed \(1\)/);
  await fresh.close();
});

test('each state drill, on a screen that keeps its state and on one that does not', async () => {
  const { putBack, results } = await drill({
    drills: ['home-and-return', 'covered', 'interrupted', 'rotate', 'process-death'],
    screens: ['booking', 'settings'],
  });
  const came = Object.fromEntries(results.map(({ came: of, step }) => [step.says, of && formatClass(of)]));
  expect(came).toEqual({
    'home-and-return on booking': 'restored',
    'home-and-return on settings': 'restored',
    'covered on booking': 'restored',
    'covered on settings': 'restored',
    'interrupted on booking': 'restored',
    'interrupted on settings': 'restored',
    'rotate on booking': 'restored',
    'rotate on settings': 'restored',
    'process-death on booking': 'partly-restored note_field typed',
    'process-death on settings': 'restored',
  });
  expect(putBack.every(({ now, was }) => now === was)).toBe(true);
});

test('a screen that is lost, one that ends the app, and one whose dialog is gone', async () => {
  const { results } = await drill({ drills: ['process-death'], screens: ['pass', 'alerts', 'tickets'] });
  expect(results.map(({ came, step }) => `${step.screen}: ${came && formatClass(came)}`)).toEqual([
    'tickets: partly-restored details gone',
    'pass: restarted first',
    'alerts: crashed',
  ]);
});

describe('a run that does not do what its name says is invalid, never passed', () => {
  const sabotaged: [string, Partial<ScreenDrill>, string][] = [
    ['ended in front', { run: ({ kill }) => kill() }, 'invalid not-left'],
    [
      'thrown away in the switcher',
      {
        run: async ({ app, launch, press, untilGone, untilStopped }) => {
          await press('HOME');
          await untilStopped();
          await device.stop(app);
          await untilGone();
          await launch();
        },
      },
      // what was kept went with it, and the trace shows no end from outside
      'restarted first',
    ],
    [
      'never ended',
      {
        run: async ({ launch, press, untilGone, untilStopped }) => {
          await press('HOME');
          await untilStopped();
          await untilGone();
          await launch();
        },
      },
      'invalid not-ended',
    ],
  ];
  test.each(sabotaged)('%s', async (_, of, expected) => {
    const found = await findCandidate(device, dossier.candidate.build);
    const subject = {
      device,
      ...found,
      overrides: await openOverrides(stateFolder, device),
      cell: { device: 'd', locale: 'en', theme: 'light', textScale: 1, orientation: 'portrait' } as const,
    };
    const lines = await runScreenDrill({ ...processDeath, ...of }, subject, screenOf('booking'));
    const run = (await factsOfLines(lines)).find((fact) => fact.kind === 'drill-run')!;
    expect(formatClass(classOfRun(run))).toBe(expected);
  });
});

describe('back, by a swipe from the edge', () => {
  const chains = async (app: PhoneApp, locale?: string) => {
    const own = await bootLookout('small-phone', app);
    const phone = await openLookout(own.address, own.token);
    const intent = { ...kelplineIntent, ...(locale && { sourceLocale: locale }) };
    try {
      const wanted = { drills: ['back' as const, 'process-death' as const], screens: ['booking', 'tickets'] };
      const { results } = await drillDevice(phone, { dossier, intent, stateFolder, wanted, isRerun: true });
      const facts = results.flatMap((result) => result.facts);
      const runs = facts.filter((fact) => fact.kind === 'drill-run');
      return {
        said: runs.map(
          ({ backChain, cell, drill }) =>
            `${cell.screen}, ${drill}: ${backChain?.map(({ activity }) => activity.split('/')[1]).join(' > ')}`,
        ),
        found: departures(run(wayBack, facts, intent)),
      };
    } finally {
      await phone.close();
      await own.close();
    }
  };

  test('the way back is the same after the process was ended; a tab has none', async () => {
    const said = [
      'booking, back: Sailing > Timetable',
      'tickets, back: ',
      'booking, process-death: Sailing > Timetable',
      'tickets, process-death: ',
    ];
    expect(await chains(kelplineIos)).toEqual({ said, found: [] });
  });

  test('from the right where the language runs from there', async () => {
    const { said } = await chains(kelplineIos, 'ar');
    expect(said[0]).toMatch(/^booking, back: \P{ASCII}+ > \P{ASCII}+/u);
  });

  test('a screen that comes back alone is told', async () => {
    const booking: ScreenModel = {
      ...kelpline.screens.booking!,
      created: (host, isRestored) => {
        if (isRestored) host.open('booking', { alone: true, extras: { ...host.state } });
      },
    };
    const { found } = await chains({ ...kelplineIos, screens: { ...kelpline.screens, booking } });
    expect(found).toEqual(['failed back process-death']);
  });
});

describe('without network, by the programs of a team', () => {
  const withTools = { ...kelplineIntent, ios: { commands: standinTools(stateFolder) } };

  test('what each run comes to, and the network is back', async () => {
    const { putBack, results } = await drill(
      { drills: ['network-lost', 'offline'], screens: ['settings', 'alerts'] },
      withTools,
    );
    expect(results.map(({ came, step }) => `${step.says}: ${came && formatClass(came)}`)).toEqual([
      'network-lost on alerts: restored',
      'network-lost on settings: restored',
      // another process, without the feed that it begins with
      'offline on alerts: crashed',
      'offline on settings: restored',
    ]);
    expect(putBack).toContainEqual({ setting: 'network', was: 'on', now: 'on' });
    expect(served.phone.isOnline).toBe(true);
  });

  const prints = (words: string) => [process.execPath, '-e', `console.log('before\\n${words}')`];
  const fails = [process.execPath, '-e', 'console.error("no access point"); process.exit(1)'];
  test.each([
    [
      'does not say whether it is online',
      { isOnline: prints('yes') },
      /neither online nor offline, but "yes"/,
    ],
    ['fails', { networkOff: fails }, /networkOff failed \(1\).* no access point/],
    ['cuts nothing', { networkOff: prints('done') }, /was to be off, and reads on/],
  ])('where one of them %s, the drill does not pass', async (_, own, says) => {
    const commands = { ...standinTools(stateFolder), ...own };
    const { results } = await drill(
      { drills: ['network-lost'], screens: ['settings'] },
      { ...kelplineIntent, ios: { commands } },
    );
    expect(results).toMatchObject([{ trouble: expect.stringMatching(says) }]);
    expect(results[0]!.came?.kind ?? 'invalid').toBe('invalid');
  });

  test('a lookout that would be cut off with it is not cut off', async () => {
    const far = new IosTools({ serial: 'ios:phone.example:1', id: 'x', address: 'phone.example:1' });
    far.give({ commands: standinTools(stateFolder) });
    expect(far.whyNoNetwork()).toMatch(/over the network/);
  });
});

test('cold starts are timed by the word of the app; of one that gives none nothing is claimed', async () => {
  const { results } = await drill({ drills: ['cold-start'] });
  const run = results[0]!.facts.find((fact) => fact.kind === 'drill-run')!;
  expect(run.startsMs).toHaveLength(5);
  for (const ms of run.startsMs!) expect(ms).toBeGreaterThanOrEqual(served.phone.shape.coldStartMs - 1);
  const { drawn: _, ...mute } = kelplineIos;
  const other = await bootLookout('small-phone', mute);
  const quiet = await openLookout(other.address, other.token);
  const untold = await drillDevice(quiet, {
    dossier,
    intent: kelplineIntent,
    stateFolder,
    wanted: { drills: ['cold-start'] },
  });
  expect(untold.results).toMatchObject([
    { facts: [], trouble: expect.stringMatching(/first frame: .*app\.drawn/) },
  ]);
  await quiet.close();
  await other.close();
});

test('captures in each language, size, theme and direction that the cells ask for; a language that the app lacks is refused', async () => {
  const intent = intentSchema.parse({
    ...kelplineIntent,
    locales: ['en', 'ar', 'fr'],
    coverage: [{ screens: ['settings'], locales: ['en', 'ar', 'fr'], textScales: [1, 2], themes: ['dark'] }],
  });
  const { results } = await drill({ drills: ['capture-sweep'] }, intent);
  const trouble = results.flatMap((one) => (one.trouble ? [`${one.step.says}: ${one.trouble}`] : []));
  expect(trouble).toEqual([
    'capture of settings, dark, fr: settings: the app runs in en, not in fr: has it no such language?',
    'capture of settings, dark, fr, 200 %: settings: the app runs in en, not in fr: has it no such language?',
  ]);
  const captures = await Promise.all(
    (await listCaptures(dossier)).map(({ file }) => parseCapture(file, readFileSync(file, 'utf8'))),
  );
  const titleIn = (locale: string, textScale: number) => {
    const found = captures.find(({ cell }) => cell.locale === locale && cell.textScale === textScale)!;
    expect([found.platform, found.build, found.cell.theme]).toEqual(['ios', dossier.candidate.build, 'dark']);
    const title = JSON.stringify(found.tree).match(/"className":"UINavigationBar".*?"height":(\d+)/)![1];
    return Number(title);
  };
  for (const locale of ['en', 'ar']) expect(titleIn(locale, 2)).toBeGreaterThan(titleIn(locale, 1) * 1.2);
  // the device is as it was
  expect(served.phone.appearance).toBe('light');
});

test('links land where they should, cold, warm and in front; what comes too early loses its argument', async () => {
  const { results } = await drill({ drills: ['links'], screens: ['pass', 'sailing'] });
  const runs = results.flatMap(({ facts }) => facts.filter((fact) => fact.kind === 'link-run'));
  const good = runs.filter(({ probe, variant }) => probe === 'good' && variant === 'as-declared');
  const shown = (good.length > 0 ? good : runs.filter(({ probe }) => probe === 'good')).map(
    ({ how, likeGoal, route, texts }) => `${route} ${how} ${likeGoal! >= 0.6} ${texts.includes('18:30')}`,
  );
  expect(shown).toEqual(
    expect.arrayContaining([
      'pass cold true false',
      'pass front true false',
      'sailing cold true false',
      'sailing warm true true',
    ]),
  );
  // what a link that nobody meant does to it, while it is in front
  const ended = runs.filter(({ crash }) => crash).map(({ how, variant }) => `${variant} ${how}`);
  expect([...new Set(ended)]).toEqual(['argument-malformed front']);
  expect(runs.find(({ crash }) => crash)!.crash!.exception).toBe('ended by itself');
});

test('from here: no dossier, no package; the screen in front is drilled and looked at', async () => {
  const app = (await device.findApp('example.kelpline'))!;
  await device.stop(app);
  await device.launch(app);
  const run = await drillHere(device, { app, build: await device.versionOf(app.appId) }, 'process-death', {
    stateFolder,
  });
  expect(run.came.kind).toBe('restored');
  const seen = await lookHere(device, app.appId, await device.settingsNow());
  expect(seen.evidence.capture).toMatchObject({ platform: 'ios', cell: { locale: 'en', theme: 'light' } });
  expect(seen.isBlank).toBe(false);
});

describe('an app that tells nothing of itself', () => {
  test('is judged by captures whose pictures show what was set, and by no others', async () => {
    const { began: _, ...silent } = kelplineIos;
    const own = await bootLookout('small-phone', silent);
    const quiet = await openLookout(own.address, own.token);
    const intent = intentSchema.parse({
      ...kelplineIntent,
      coverage: [
        { screens: ['settings'], locales: ['en', 'de', 'fr'], textScales: [1, 2], themes: ['light'] },
      ],
    });
    try {
      const kept = await dossierIn('unproven');
      const wanted = { drills: ['capture-sweep' as const] };
      await drillDevice(quiet, { dossier: kept, intent, stateFolder, wanted });
      const project = { ...(await readProject(demoFolder, 'example.kelpline')), intent };
      const { coverage } = await judgeDossier(kept, project, { strict: false, now: new Date() });
      const open = coverage.flatMap(({ cell, why }) =>
        why ? [`${formatCell({ ...cell, device: '' })}: ${why}`] : [],
      );
      expect(open.sort()).toEqual([
        expect.stringMatching(
          /^settings, light, fr, text 200 %: Not proven: nothing shows that the language took/,
        ),
        expect.stringMatching(
          /^settings, light, fr: Not proven: nothing shows that the language took.*docs\/ios\.md/,
        ),
      ]);
      expect(coverage.filter(({ why }) => !why).every(({ outcome }) => outcome !== 'untested')).toBe(true);
    } finally {
      await quiet.close();
      await own.close();
    }
  });

  test('has evidence that is asserted, and process death is proven by what the system says', async () => {
    const { began: _, ...silent } = kelplineIos;
    const own = await bootLookout('small-phone', silent);
    const quiet = await openLookout(own.address, own.token);
    try {
      const kept = await dossierIn('silent');
      const { results } = await drillDevice(quiet, {
        dossier: kept,
        intent: kelplineIntent,
        stateFolder,
        wanted: { drills: ['process-death'], screens: ['settings'] },
      });
      expect(results.map(({ came }) => came && formatClass(came))).toEqual(['restored']);
      const [trace] = await readdir(join(kept.folder, 'traces'));
      const text = readFileSync(join(kept.folder, 'traces', trace!), 'utf8');
      expect(text).toContain('"drill.began"');
      expect(text.split('\n').find((line) => line.includes('drill.began'))).not.toContain('"build":{');
    } finally {
      await quiet.close();
      await own.close();
    }
  });
});

describe('what goes wrong on the line is said, with what to do', () => {
  const hello = {
    lookout: 1,
    system: '17.4',
    model: 'm',
    name: 'n',
    id: 'I',
    widthPt: 100,
    heightPt: 200,
    scale: 2,
  };
  const expectOut = (work: Promise<unknown>, code: OutOfReach['code'], words: RegExp) =>
    expect(work).rejects.toMatchObject({ code, message: expect.stringMatching(words) });

  test('nobody answers; a wrong token; another version; no token known', async () => {
    await expectOut(openLookout('127.0.0.1:1', 't'), 'no-answer', /fenlok standin phone --platform ios/);
    await expectOut(openLookout(served.address, 'wrong'), 'unauthorised', /FENLOK_LOOKOUT_TOKEN/);
    const newer = await scriptedLookout(({ id }) => ({ id, refused: 'this is lookout 9', code: 'version' }));
    await expectOut(openLookout(newer.address, 't'), 'refused', /this is lookout 9.*FenlokLookout\.swift/);
    await newer.close();
    const of = { stateFolder: join(scratch, 'other'), server: { host: '127.0.0.1', port: 1 } };
    await expectOut(openPhone(`ios:${served.address}`, of), 'unauthorised', /nobody knows the token/);
  });

  test('a known lookout needs no token; of two somebody has to choose', async () => {
    const of = { stateFolder: join(scratch, 'known'), server: { host: '127.0.0.1', port: 1 } };
    const { address, token } = served;
    await makeKnown(of.stateFolder, { address, token, pid: process.pid, name: 'one' });
    const opened = await openPhone(undefined, of);
    expect(opened.serial).toBe(`ios:${address}`);
    await opened.close();
    await makeKnown(of.stateFolder, { address: '127.0.0.1:2', token, pid: process.pid, name: 'one' });
    await expectOut(openPhone(undefined, of), 'unknown', /several devices are there.*Choose with --device/);
  });

  test('the test ends in the middle; a tree of more than 5 MB; an answer that is no JSON', async () => {
    const big = {
      kind: 'window',
      label: 'x'.repeat(6 * 2 ** 20),
      frame: { x: 0, y: 0, width: 1, height: 1 },
    };
    const fake = await scriptedLookout(({ ask, id }) => {
      if (ask === 'hello') return { id, done: hello };
      if (ask === 'look') return { id, done: { front: 'a.b', owner: 'a.b', scale: 2, tree: big } };
      return ask === 'picture' ? 'no JSON\n' : undefined;
    });
    const one = await openLookout(fake.address, 't');
    await expect(one.snapshot()).rejects.toThrow(NoDump);
    await expectOut(one.press('HOME'), 'gone', /its UI test ended/);
    expect(one.isGone()).toBe(true);
    await one.reconnect();
    await expectOut(one.picture(), 'gone', /went away/);
    await one.close();
    await fake.close();
  });

  test('a tree that is not one is said to be none, with its place', async () => {
    const fake = await scriptedLookout(({ ask, id }) =>
      ask === 'hello'
        ? { id, done: hello }
        : {
            id,
            done: { front: 'a.b', owner: 'a.b', scale: 2, tree: { kind: 'window', frame: { x: 'left' } } },
          },
    );
    const one = await openLookout(fake.address, 't');
    await expect(one.snapshot()).rejects.toThrow(/tree\.frame/);
    await one.close();
    await fake.close();
  });
});

test('a recorded conversation, played to the driver again: it asks the same, and makes the same of the answers', async () => {
  const folder = 'tests/fixtures/lookout';
  const record = readFileSync(`${folder}/conversation.jsonl`, 'utf8')
    .trimEnd()
    .split('\n')
    .map((line) => JSON.parse(line));
  const asked: object[] = [];
  const played = await scriptedLookout((request) => {
    asked.push(request);
    return record.find((line) => line.id === request.id && line.ask === undefined);
  });
  const device = await openLookout(played.address, 'TOKEN');
  const said = await converse(device);
  expect(asked).toEqual(record.filter((line) => line.ask !== undefined));
  expect(said.map((one) => one ?? null)).toEqual(JSON.parse(readFileSync(`${folder}/said.json`, 'utf8')));
  await device.close();
  await played.close();
});

test('a walk of its own names screens by what stands in their bars, and finds what ends the app', async () => {
  const { results } = await drillDevice(device, {
    dossier,
    intent: kelplineIntent,
    stateFolder,
    wanted: { drills: ['roam'] },
    roamSteps: 60,
  });
  expect(results.map(({ trouble }) => trouble)).toEqual([undefined]);
  const map: RoamMap = JSON.parse(readFileSync(join(dossier.folder, 'roam/small-phone/map.json'), 'utf8'));
  expect(map.screens.map(({ id }) => id)).toEqual(
    expect.arrayContaining(['timetable', 'book-a-crossing', 'settings']),
  );
  expect(map.crashes).toEqual([
    expect.objectContaining({ exception: 'ended by itself', action: 'gangway_seats' }),
  ]);
});
