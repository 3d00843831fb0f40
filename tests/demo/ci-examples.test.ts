/** The examples of `docs/ci/`: read by the services' own parsers, their commands run on the demo, and run again. */
import { spawn, spawnSync } from 'node:child_process';
import {
  chmodSync,
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { parse } from 'yaml';
import { fetchNode } from '../../scripts/fetch-node.mjs';
import type { Judgement } from '../../src/core/model/judgement.ts';
import { demoApk, demoFolder, root, scratchFolder, tools } from '../support/paths.ts';
import { readMarkdown } from '../support/report-readers.ts';

const scratch = scratchFolder();
const newestNode = fetchNode();
const [github, gitlab] = ['github-actions.yml', 'gitlab-ci.yml'].map((name) =>
  readFileSync(join(root, 'docs/ci', name), 'utf8'),
) as [string, string];
const APK = 'app/build/outputs/apk/release/app-release.apk';
// a part of what the examples run, on one screen
const DRILLS = 'capture-sweep --screen settings --only light';

/** A checkout of a team's, with the demo as its app; `npm ci` has nothing to do there. */
function checkOut(name: string): string {
  const folder = join(scratch, name);
  mkdirSync(join(folder, dirname(APK)), { recursive: true });
  cpSync(join(demoFolder, 'android'), join(folder, 'app/src/main'), { recursive: true });
  cpSync(demoApk, join(folder, APK));
  for (const part of ['fenlok.yaml', 'networks', 'push', 'sales'])
    cpSync(join(demoFolder, part), join(folder, part), { recursive: true });
  const bin = join(folder, 'node_modules/.bin');
  mkdirSync(bin, { recursive: true });
  const command = `exec "${process.execPath}" "${join(root, 'dist/bin/fenlok.js')}" "$@"`;
  const scripts = { fenlok: command, npm: '[ "$1" = ci ]', npx: 'shift; exec fenlok "$@"' };
  for (const [tool, line] of Object.entries(scripts)) {
    writeFileSync(join(bin, tool), `#!/bin/sh\n${line}\n`);
    chmodSync(join(bin, tool), 0o755);
  }
  return folder;
}

const environment = (folder: string, of: Record<string, string> = {}) => ({
  ...process.env,
  PATH: `${join(folder, 'node_modules/.bin')}:${process.env.PATH}`,
  ...of,
});

/** One shell for a job, and an end for what it leaves running. */
async function runShell(folder: string, script: string, env: Record<string, string>) {
  const child = spawn('bash', ['-c', script], {
    cwd: folder,
    detached: true,
    env: environment(folder, env),
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let said = '';
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (chunk: Buffer) => {
      said += chunk;
    });
  const code = await new Promise<number>((resolve) => child.once('exit', (status) => resolve(status ?? -1)));
  try {
    process.kill(-child.pid!, 'SIGTERM');
  } catch {
    // nothing was left
  }
  return { code, said };
}

const factsOf = (folder: string): Record<string, number> =>
  Object.fromEntries(
    readdirSync(join(folder, 'facts')).map((name) => [name, statSync(join(folder, 'facts', name)).mtimeMs]),
  );
const judgementOf = (folder: string): Judgement =>
  JSON.parse(readFileSync(join(folder, 'dossier/judgement.json'), 'utf8'));
/** Settings in light, three languages, two text sizes; and with bold text. */
const expectJudged = (folder: string) => {
  const captured = judgementOf(folder).coverage.filter(({ outcome }) => outcome !== 'untested');
  expect(new Set(captured.map(({ cell }) => `${cell.screen} ${cell.theme}`))).toEqual(
    new Set(['settings light']),
  );
  expect(new Set(captured.map(({ cell }) => cell.locale))).toEqual(new Set(['en', 'de', 'ar']));
};

interface Step {
  name?: string;
  run?: string;
  if?: string;
}
const workflow: { env: Record<string, string>; jobs: Record<'drill' | 'verdict', { steps: Step[] }> } =
  parse(github);

/** As the service does: each command in a shell of its own that ends at the first error, those with a condition always. */
function scriptOf(steps: readonly Step[], part?: number): string {
  const lines = steps.flatMap(({ if: condition, run }, i) => {
    if (run === undefined) return [];
    const commands = run.replaceAll(/\$\{\{ matrix\.part \}\}/g, String(part));
    expect(commands).not.toMatch(/\$\{\{/);
    return [
      `${condition ? '' : '[ $code = 0 ] && {\n'}bash -eo pipefail <<'END_${i}' || code=$?\n${commands}\nEND_${i}\n${condition ? '' : '}'}`,
    ];
  });
  return `code=0\n${lines.join('\n')}\nexit $code`;
}

test('the first is what its service reads', () => {
  const read = (content: string) => {
    const file = join(scratch, 'check.yml');
    writeFileSync(file, content);
    const { stdout } = spawnSync(process.execPath, [join(root, 'tests/support/parse-workflow.mjs'), file], {
      encoding: 'utf8',
    });
    return JSON.parse(stdout);
  };
  expect(read(github)).toEqual({ errors: [], jobs: [8, 9] });
  // it does refuse what is wrong
  expect(read(github.replace('run: npm ci', 'rum: npm ci')).errors).not.toEqual([]);
});

test('its commands judge the demo, and measure nothing again', async () => {
  const folder = checkOut('github');
  const part = async (index: number) => {
    const own = checkOut(`github-${index}`);
    const script = scriptOf(workflow.jobs.drill.steps, index);
    const env = { ...workflow.env, DRILLS, PHONE: `127.0.0.1:561${index}` };
    expect(await runShell(own, script, env)).toMatchObject({ code: 0 });
    const facts = factsOf(join(own, 'dossier'));
    // as the cache brings it back
    const again = await runShell(own, script, env);
    expect(again).toMatchObject({ code: 0 });
    expect(factsOf(join(own, 'dossier'))).toEqual(facts);
    cpSync(join(own, 'dossier'), join(folder, `dossier-${index}`), {
      recursive: true,
      preserveTimestamps: true,
    });
  };
  await Promise.all([part(1), part(2)]);
  const summary = join(folder, 'summary.md');
  const env = { ...workflow.env, GITHUB_STEP_SUMMARY: summary };
  // blocked, and reported all the same
  expect(await runShell(folder, scriptOf(workflow.jobs.verdict.steps), env)).toEqual({
    code: 1,
    said: expect.stringContaining('Report page'),
  });
  expectJudged(folder);
  expect(readMarkdown(readFileSync(summary, 'utf8')).texts.join(' ')).toContain('Kelpline');
  expect(readdirSync(join(folder, 'dossier/report'))).toEqual(
    expect.arrayContaining(['fenlok.sarif', 'junit.xml', 'summary.md', 'index.html']),
  );
});

(newestNode && existsSync(tools.rsync) ? test : test.skip)(
  'the second is read and run by a runner of its form',
  () => {
    const folder = checkOut('gitlab');
    // without containers, in this machine's shell
    writeFileSync(join(folder, '.gitlab-ci.yml'), gitlab.replace('image: node:22', ''));
    for (const command of [
      ['init', '-q', '-b', 'main'],
      [
        '-c',
        'user.name=Ada',
        '-c',
        'user.email=ada@isle.example',
        'commit',
        '-q',
        '--allow-empty',
        '-m',
        'a',
      ],
      ['remote', 'add', 'origin', 'git@git.example:isle/kelpline.git'],
    ])
      spawnSync('git', command, { cwd: folder });
    const runner = join(root, 'node_modules/gitlab-ci-local/dist/index.js');
    const run = (...options: string[]) =>
      spawnSync(newestNode!, [runner, '--home', scratch, '--variable', `DRILLS=${DRILLS}`, ...options], {
        cwd: folder,
        encoding: 'utf8',
        env: environment(folder),
        timeout: 600_000,
        maxBuffer: 2 ** 26,
      });
    const { status, stdout, stderr } = run();
    expect([status, `${stdout}${stderr}`]).toEqual([1, expect.stringContaining('Report page')]);
    expectJudged(folder);
    expect(readdirSync(join(folder, 'dossier/report'))).toEqual(
      expect.arrayContaining(['fenlok.sarif', 'junit.xml', 'summary.md']),
    );
    writeFileSync(join(folder, '.gitlab-ci.yml'), gitlab.replace('script:', 'scripd:'));
    expect(run('--list-json').status).not.toBe(0);
  },
);
