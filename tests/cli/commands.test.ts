/** The commands at work: help, evidence in several forms, Ctrl-C, the entry points. */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, watch, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import sharp from 'sharp';
import type { Io } from '../../src/cli/io.ts';
import { runProgram } from '../../src/cli/program.ts';
import { fenlok, recordingIo } from '../support/command.ts';
import { demoFolder, root, scratchFolder } from '../support/paths.ts';
import { changeFacts, pretendBuild } from '../support/project.ts';

const scratch = scratchFolder();

test.each([
  'demo',
  'start',
  'read',
  'add',
  'judge',
  'rule',
  'sign',
  'try contrast',
  'try variant',
  'try pseudo',
])('fenlok %s --help shows an example, and --json for machines', async (command) => {
  const io = recordingIo(scratch);
  expect(await runProgram([...command.split(' '), '--help'], io)).toBe(0);
  expect(io.said.out).toMatch(/Example:\n {2}fenlok/);
  expect(io.said.out).toContain('--json');
});

test('the version is that of the package', async () => {
  const io = recordingIo(scratch);
  expect([await runProgram(['--version'], io), io.said.out.trim()]).toEqual([
    0,
    JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')).version,
  ]);
});

test("the demo leaves another project's folder alone", async () => {
  const folder = join(scratch, 'theirs');
  mkdirSync(join(folder, 'dossier'), { recursive: true });
  writeFileSync(join(folder, 'fenlok.yaml'), 'fenlok: intent/1\napp: { id: example.theirs }\n');
  writeFileSync(join(folder, 'dossier/letter.txt'), 'kept');
  expect(await fenlok(['demo', '--out', 'theirs'], scratch)).toMatchObject({
    code: 2,
    err: expect.stringContaining('holds another project'),
  });
  expect(readFileSync(join(folder, 'dossier/letter.txt'), 'utf8')).toBe('kept');
  expect(readdirSync(folder).sort()).toEqual(['dossier', 'fenlok.yaml']);
});

test('colour only in a terminal, and never where NO_COLOR is set', async () => {
  const colourOf = async (of: Partial<Io>) => {
    const io = recordingIo(scratch, of);
    await runProgram(['try', 'contrast', '#777', '#fff'], io);
    return /\u001b\[/.test(io.said.out);
  };
  expect([
    await colourOf({ outIsTerminal: true }),
    await colourOf({}),
    await colourOf({ outIsTerminal: true, env: { NO_COLOR: '1' } }),
  ]).toEqual([true, false, false]);
});

describe('a dossier by hand', () => {
  const folder = join(scratch, 'byhand');
  const dossier = join(folder, 'dossier');

  beforeAll(async () => {
    cpSync(demoFolder, folder, { recursive: true });
    const jpeg = await sharp({ create: { width: 300, height: 600, channels: 3, background: '#ffffff' } })
      .jpeg()
      .toBuffer();
    writeFileSync(join(folder, 'shot.jpg'), jpeg);
    writeFileSync(
      join(folder, 'shot.xml'),
      '<hierarchy><node bounds="[0,0][300,600]"><node clickable="true" content-desc="Go" resource-id="a:id/go" bounds="[10,10][100,100]"/></node></hierarchy>',
    );
    writeFileSync(
      join(folder, 'app.jsonl'),
      '{"at":"2026-11-23T10:00:00Z","kind":"link.opened","url":"kelpline://tickets"}\n',
    );
  });

  test('package, a JPEG with its tree, a trace and a letter are taken in once each', async () => {
    const args = [
      'add',
      'shot.jpg',
      'kelpline.apk',
      'app.jsonl',
      'fenlok.yaml',
      '--screen',
      'timetable',
      '--density',
      '160',
      '--json',
    ];
    const first = JSON.parse((await fenlok(args, folder)).out).taken;
    expect(first.map(({ kind, again }: { kind: string; again: boolean }) => `${kind} ${again}`)).toEqual([
      'package false',
      'capture false',
      'trace false',
      'file false',
    ]);
    const second = JSON.parse((await fenlok(args, folder)).out).taken;
    expect(second.every(({ again }: { again: boolean }) => again)).toBe(true);
    expect(readdirSync(join(dossier, 'captures'))).toHaveLength(1);
  });

  test('what was not captured stays untested, and facts are measured once', async () => {
    const run = await fenlok(['judge', '--json'], folder);
    const judgement = JSON.parse(run.out);
    expect(judgement.items.find(({ id }: { id: string }) => id === 'a11y.names')).toMatchObject({
      outcome: 'untested',
      why: expect.stringContaining('85 of 86 planned cells'),
    });
    const facts = readdirSync(join(dossier, 'facts')).map((name) => join(dossier, 'facts', name));
    const unnamed = (lines: string) =>
      lines.replace('"name":"Go","nameFrom":"label"', '"name":"","nameFrom":"none"');
    const found = async () =>
      JSON.parse((await fenlok(['judge', '--json'], folder)).out).findings.map(
        ({ check }: { check: string }) => check,
      );
    for (const file of facts) changeFacts(file, unnamed);
    expect(await found()).toContain('unnamed-control');
    // kept facts of other code are measured again
    for (const file of facts) changeFacts(file, unnamed, { key: '0123' });
    expect(await found()).not.toContain('unnamed-control');
  });

  test("a team's own list beside the intent file is laid over the shipped one", async () => {
    const own = 'fenlok: checklist/1\nname: ours\noff:\n  - { item: ads.wired, why: no ads in this app }\n';
    writeFileSync(join(folder, 'ours.yaml'), own);
    writeFileSync(
      join(folder, 'with-own.yaml'),
      `${readFileSync(join(folder, 'fenlok.yaml'), 'utf8')}checklist: { own: ours.yaml }\n`,
    );
    const judgement = JSON.parse(
      (await fenlok(['judge', '--intent', 'with-own.yaml', '--json'], folder)).out,
    );
    expect(judgement).toMatchObject({
      checklist: 'mobile-release + ours',
      switchedOff: [{ item: 'ads.wired' }],
    });
    writeFileSync(join(folder, 'ours.yaml'), own.replace('ads.wired', 'ads.wierd'));
    expect(await fenlok(['judge', '--intent', 'with-own.yaml'], folder)).toMatchObject({
      code: 3,
      err: expect.stringContaining('Did you mean "ads.wired"'),
    });
  });

  test('another build is refused, and the dossier stays as it was', async () => {
    const before = readFileSync(join(dossier, 'dossier.json'), 'utf8');
    pretendBuild(dossier, { build: '239' });
    const run = await fenlok(['add', 'kelpline.apk'], folder);
    expect([run.code, run.err]).toEqual([
      3,
      expect.stringMatching(/another build: example\.kelpline 2\.4\.0 \(240\).*2\.4\.0 \(239\)/),
    ]);
    writeFileSync(join(dossier, 'dossier.json'), before);
  });

  test('rulings are given in words, by a name, and only where they make sense', async () => {
    const { findings } = JSON.parse(readFileSync(join(dossier, 'judgement.json'), 'utf8'));
    const rule = (...args: string[]) => fenlok(['rule', findings[0].id, ...args], folder);
    expect(await rule('--as', 'real', '--why', 'x', '--by', 'Ada', '--until', '2027-01-01')).toMatchObject({
      code: 2,
      err: expect.stringContaining('--as accepted'),
    });
    expect(await rule('--as', 'accepted', '--why', 'x', '--by', 'Ada', '--until', 'soon')).toMatchObject({
      code: 2,
      err: expect.stringContaining('--until'),
    });
    expect(
      await fenlok(['rule', 'zzzz-zzzz', '--as', 'real', '--why', 'x', '--by', 'A'], folder),
    ).toMatchObject({ code: 2, err: expect.stringContaining('no finding zzzz-zzzz') });
    expect(
      await fenlok(['rule', findings[0].id, '--as', 'real', '--why', 'seen it'], folder, {
        FENLOK_NAME: 'Ola',
      }),
    ).toMatchObject({ code: 0 });
    expect(readFileSync(join(folder, 'rulings.yaml'), 'utf8')).toMatch(/by: Ola/);
  });

  test('a ruling on a card is one on each place that it showed, or on one alone', async () => {
    const file = join(dossier, 'judgement.json');
    const judgement = JSON.parse(readFileSync(file, 'utf8'));
    const [first, second] = judgement.findings.map(({ id }: { id: string }) => id);
    writeFileSync(file, JSON.stringify({ ...judgement, cards: [{ id: first, findings: [first, second] }] }));
    const ruled = async (...args: string[]) => {
      const { out } = await fenlok(
        ['rule', ...args, '--as', 'real', '--why', 'seen', '--by', 'Ada', '--json'],
        folder,
      );
      return JSON.parse(out).map(({ finding }: { finding: string }) => finding);
    };
    expect(await ruled(first)).toEqual([first, second]);
    expect(await ruled(first, '--only')).toEqual([first]);
    expect(await ruled(second)).toEqual([second]);
  });
});

test.each([
  ['SIGINT', 130],
  ['SIGTERM', 143],
  ['SIGHUP', 129],
  ['SIGKILL', null],
] as const)('%s ends the demo, and its stand-ins with it', async (signal, expected) => {
  const out = join(scratch, signal);
  mkdirSync(out);
  const child = spawn(process.execPath, [join(root, 'dist/bin/fenlok.js'), 'demo', '--out', out], {
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  const ended = new Promise((resolve) => child.once('close', resolve));
  let err = '';
  child.stderr.on('data', (chunk) => {
    err += chunk;
  });
  // the keys of a stand-in are written when it listens
  const port = await new Promise<number>((resolve) => {
    const watcher = watch(out, () => {
      const file = join(out, 'test-ads.json');
      const found = existsSync(file) && /127\.0\.0\.1:(\d+)/.exec(readFileSync(file, 'utf8'));
      if (!found) return;
      watcher.close();
      resolve(Number(found[1]));
    });
  });
  const standin = connect(port, '127.0.0.1');
  await once(standin, 'connect');
  const gone = once(standin, 'close');
  child.kill(signal);
  expect([await ended, err]).toEqual([expected, expect.stringContaining(expected ? 'stopped' : 'Reading')]);
  await gone;
  const left = readdirSync(out, { recursive: true }).map(String);
  expect(left.filter((name) => name.includes('.incoming'))).toEqual([]);
});

test('the entry points of the package are there, typed and without side effects', async () => {
  const script = `
    const core = await import('fenlok');
    const node = await import('fenlok/node');
    const device = await import('fenlok/device');
    const standins = await import('fenlok/standins');
    console.log(core.contrastRatio([0, 0, 0], [255, 255, 255]), typeof node.judgeDossier, device.allScreenDrills.some(({ id }) => id === 'rotate'), standins.kelpline.appId, core.checks.length > 9);`;
  const child = spawn(process.execPath, ['--input-type=module', '-e', script], {
    cwd: root,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  let out = '';
  child.stdout.on('data', (chunk) => {
    out += chunk;
  });
  await new Promise((resolve) => child.on('close', resolve));
  expect(out.trim()).toBe('21 function true example.kelpline true');
  for (const entry of ['core', 'node', 'device', 'standins'])
    expect(existsSync(join(root, `dist/${entry}/index.d.ts`))).toBe(true);
});

test.each([
  [['drill', '--again'], '--again is now called --rerun'],
  [['drill', 'fire-links'], 'the drill fire-links is now called links'],
  [['drill', 'back', 'load-ads'], 'the drill load-ads is now called ads'],
  [['judge', '--rows', 'banner'], '--rows is now called --filter'],
  [['standin', 'messages', '--write', 'm.json'], '--write is now called --connection'],
  [['standin', 'ads', '--networks', 'n.yaml', '--write', 'a.json'], '--write is now called --connection'],
])('a name of before: %s', async (args, says) => {
  const { code, err, out } = await fenlok(args, scratch);
  expect([code, out, err]).toEqual([2, '', `fenlok: ${says}\n`]);
});
