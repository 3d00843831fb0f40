import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { fenlok } from '../support/command.ts';
import { demoFolder, root, scratchFolder } from '../support/paths.ts';
import { copyIntent } from '../support/project.ts';
import { bootPhone } from '../support/served-phone.ts';

const scratch = scratchFolder();
const catalogue = join(demoFolder, 'store.yaml');

const firstLine = (stream: Readable): Promise<string> =>
  new Promise((resolve) => stream.once('data', (data) => resolve(String(data))));

describe('try renewals', () => {
  test('the timetable of one plan, moment by moment', async () => {
    const run = await fenlok(
      ['try', 'renewals', 'P1M', '--store', 'play-test', '--json', '--from', '2026-11-27T14:00:00Z'],
      scratch,
    );
    const { clock, plans } = JSON.parse(run.out) as {
      clock: { asOf: string; source: string };
      plans: { rows: { what: string; atMs: number }[] }[];
    };
    expect(clock).toMatchObject({ asOf: expect.stringMatching(/^\d{4}-/), source: expect.any(String) });
    expect(
      plans[0]!.rows.map(({ atMs, what }) => `${what} ${new Date(atMs).toISOString().slice(11, 16)}`),
    ).toEqual([
      'start 14:00',
      ...['14:05', '14:10', '14:15', '14:20', '14:25', '14:30'].map((at) => `renewal ${at}`),
      'end 14:35',
    ]);
  });

  test('all plans, and the one to try first', async () => {
    const { code, out } = await fenlok(['try', 'renewals'], scratch);
    expect(code).toBe(0);
    expect(out).toContain('Try 3 days first');
    expect(out).toMatch(/1 year\s+1 h .* after 13 h/);
  });

  test.each([
    [['P5M'], /no such plan; it has P3D/],
    [['monthly'], /no period such as P1M/],
    [['P1M', '--store', 'corner-shop'], /say apple-sandbox or play-test/],
    [['P1M', '--from', 'noon'], /a time such as/],
  ])('%j is refused with what to say instead', async (args, words) => {
    const { code, err } = await fenlok(['try', 'renewals', ...args], scratch);
    expect([code, err]).toEqual([2, expect.stringMatching(words)]);
  });
});

describe('standin store', () => {
  test('writes where it is for nobody else to read, keeps its journal, and ends with Ctrl-C', async () => {
    const [file, journal] = [join(scratch, 'test-store.json'), join(scratch, 'store.jsonl')];
    const args = [
      'standin',
      'store',
      '--catalogue',
      catalogue,
      '--connection',
      file,
      '--journal',
      journal,
      '--json',
    ];
    const child = spawn(process.execPath, [join(root, 'dist/bin/fenlok.js'), ...args], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    try {
      const said = JSON.parse(await firstLine(child.stdout)) as { store: string };
      expect(statSync(file).mode & 0o777).toBe(0o600);
      const { secret, store, testers } = JSON.parse(readFileSync(file, 'utf8')) as Record<string, string>;
      expect([store, testers]).toEqual([said.store, ['ada']]);
      const response = await fetch(`${store}/orders`, {
        method: 'POST',
        headers: { authorization: `Bearer ${secret}` },
        body: JSON.stringify({ do: 'elsewhere', account: 'ada', product: 'no-ads' }),
      });
      expect(response.status).toBe(200);
    } finally {
      child.kill('SIGINT');
    }
    expect(await new Promise((resolve) => child.on('close', resolve))).toBe(0);
    expect(readFileSync(journal, 'utf8')).toContain('"product":"no-ads"');
  });

  test.each<[string, string[], number, RegExp]>([
    ['no catalogue', ['--catalogue', 'nowhere.yaml'], 3, /nowhere.yaml: no such file/],
    ['a catalogue with a typo', ['--catalogue', 'typo.yaml'], 3, /typo.yaml, line 4.*"prise"/],
    [
      'an unknown clock',
      ['--catalogue', catalogue, '--clock', 'sundial'],
      2,
      /say real, apple-sandbox or play-test/,
    ],
    [
      'an unknown fault',
      ['--catalogue', catalogue, '--fail', 'fire'],
      2,
      /say slow, offline, half, twice, disorder/,
    ],
    ['a rate below nothing', ['--catalogue', catalogue, '--rate', '-1'], 2, /a number from 0 on/],
  ])('%s is refused', async (_, args, code, words) => {
    writeFileSync(
      join(scratch, 'typo.yaml'),
      'fenlok: store-catalogue/1\napp: a\nproducts:\n  - { id: x, kind: consumable, names: {}, prise: {} }\n',
    );
    writeFileSync(
      join(scratch, 'comma.yaml'),
      'fenlok: store-catalogue/1\napp: a\nproducts:\n  - { id: x, kind: consumable, names: { de: { name: Pass 16,90 € } }, prices: {} }\n',
    );
    const run = await fenlok(['standin', 'store', ...args], scratch);
    expect([run.code, run.err]).toEqual([code, expect.stringMatching(words)]);
  });
});

describe('standin ads', () => {
  const exchange = join(demoFolder, 'ad-exchange.yaml');

  test('answers bid requests in the mode that it was given, and ends with Ctrl-C', async () => {
    const file = join(scratch, 'test-ads.json');
    const args = [
      'standin',
      'ads',
      '--networks',
      exchange,
      '--connection',
      file,
      '--mode',
      'northmast=no-fill',
      '--json',
    ];
    const child = spawn(process.execPath, [join(root, 'dist/bin/fenlok.js'), ...args], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    try {
      const { ads } = JSON.parse(await firstLine(child.stdout)) as { ads: string };
      const bid = (network: string, tagid: string, more: object) =>
        fetch(`${ads}/bid/${network}`, {
          method: 'POST',
          body: JSON.stringify({
            id: '1',
            imp: [{ id: '1', tagid, banner: {}, ...more }],
            app: { bundle: 'a' },
            device: {},
            test: 1,
          }),
        });
      expect((await bid('brightbuoy', 'bb-unit-0001', {})).status).toBe(200);
      expect((await bid('northmast', 'nm-unit-0002', { instl: 1 })).status).toBe(204);
      expect(statSync(file).mode & 0o777).toBe(0o600);
    } finally {
      child.kill('SIGINT');
    }
    expect(await new Promise((resolve) => child.on('close', resolve))).toBe(0);
  });

  test.each<[string, string[], number, RegExp]>([
    ['no file', ['--networks', 'nowhere.yaml'], 3, /nowhere.yaml: no such file/],
    [
      'a mode that there is not',
      ['--networks', exchange, '--mode', 'brightbuoy=sulky'],
      2,
      /say NETWORK=MODE with brightbuoy/,
    ],
    [
      'a network that is not there',
      ['--networks', exchange, '--mode', 'sandbar=fill'],
      2,
      /brightbuoy, northmast, ropewalk/,
    ],
  ])('%s is refused', async (_, args, code, words) => {
    const run = await fenlok(['standin', 'ads', ...args], scratch);
    expect([run.code, run.err]).toEqual([code, expect.stringMatching(words)]);
  });
});

describe('what stands in the intent file', () => {
  const project = join(scratch, 'project');
  const network = 'fenlok: ad-network/1\nid: sandbar\nname: Sandbar\nformats: [banner]\n';
  const judge = async (ads: string, description: string) => {
    mkdirSync(project, { recursive: true });
    writeFileSync(join(project, 'sandbar.yaml'), description);
    writeFileSync(
      join(project, 'fenlok.yaml'),
      `fenlok: intent/1\napp: { id: example.kelpline }\nads:\n  networks: [sandbar.yaml]\n  placements:\n    - ${ads}\n`,
    );
    await fenlok(['add', join(demoFolder, 'kelpline.apk')], project);
    return fenlok(['judge'], project);
  };

  test.each<[string, string, string, RegExp]>([
    [
      'a network that is described nowhere',
      '{ id: top, format: banner, waterfall: [{ network: ropewalk }] }',
      network,
      /fenlok.yaml, ads.placements.0: the network "ropewalk"; expected .*sandbar/,
    ],
    [
      'a typo in a description',
      '{ id: top, format: banner, waterfall: [{ network: sandbar }] }',
      `${network}conector: []\n`,
      /sandbar.yaml, line 5: unknown key "conector"/,
    ],
    [
      'a format that there is not',
      '{ id: top, format: poster, waterfall: [{ network: sandbar }] }',
      network,
      /fenlok.yaml, line 6/,
    ],
    ['no waterfall', '{ id: top, format: banner, waterfall: [] }', network, /fenlok.yaml, line 6/],
    [
      'a screen that is not there',
      '{ id: top, format: banner, screen: attic, waterfall: [{ network: sandbar }] }',
      network,
      /"attic" is not among the screens/,
    ],
  ])('%s is told with its place', async (_, ads, description, words) => {
    const { code, err } = await judge(ads, description);
    expect([code, err]).toEqual([3, expect.stringMatching(words)]);
  });
});

test('a drill without a store or networks says what it would need', async () => {
  const phone = await bootPhone();
  const work = join(scratch, 'plan');
  copyIntent(work);
  try {
    await fenlok(['add', join(demoFolder, 'kelpline.apk')], work);
    const { out } = await fenlok(
      ['drill', 'purchases', 'ads', '--dry-run', '--device', phone.address],
      work,
      { FENLOK_STATE: join(scratch, 'state') },
    );
    expect(out).toMatch(/purchases.*--store FILE/);
    expect(out).toMatch(/ads:.*--ads FILE/);
  } finally {
    await phone.close();
  }
});
