import { spawn } from 'node:child_process';
import { readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fenlok } from '../support/command.ts';
import { demoFolder, root, scratchFolder } from '../support/paths.ts';

const scratch = scratchFolder();
const catalogue = join(demoFolder, 'store.yaml');

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
      '--write',
      file,
      '--journal',
      journal,
      '--json',
    ];
    const child = spawn(process.execPath, [join(root, 'dist/cli/bin.js'), ...args], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    try {
      const said = JSON.parse(
        await new Promise<string>((resolve) => child.stdout.once('data', (data) => resolve(String(data)))),
      ) as { store: string };
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
    const run = await fenlok(['standin', 'store', ...args], scratch);
    expect([run.code, run.err]).toEqual([code, expect.stringMatching(words)]);
  });
});
