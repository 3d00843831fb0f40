/**
 * Signatures by platform level, beside the platform's own verifier on its own test packages: some 370 files, each at
 * every level at which a rule changes and over all levels that it says it runs on.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { sourceFolder } from '../../../scripts/corpora.mjs';
import type { LevelVerdict } from '../../../src/core/model/app-package.ts';
import { type Problem, UnreadableError } from '../../../src/core/model/problem.ts';
import { withPackage } from '../../../src/node/read-package.ts';
import { root } from '../../support/paths.ts';

const LEVELS = [8, 17, 18, 20, 21, 22, 23, 24, 27, 28, 32, 33, 36];
const ALL_LEVELS = 0;

const corpus = sourceFolder('signatures');
const work = mkdtempSync(join(tmpdir(), 'fenlok-signatures-'));
afterAll(() => rmSync(work, { recursive: true }));

interface Row {
  file: string;
  level: number;
  accepted: boolean;
  why: string;
}

const classes = join(work, 'classes');

function compileVerifier(folder: string): void {
  const sources = execFileSync('find', [join(folder, 'main'), '-name', '*.java'], { encoding: 'utf8' });
  const driver = join(root, 'tests/support/VerdictsByLevel.java');
  execFileSync('javac', ['-nowarn', '-d', classes, ...sources.trim().split('\n'), driver], {
    stdio: 'ignore',
  });
}

function askPlatform(asked: string[]): Row[] {
  const list = join(work, `list-${asked.length}`);
  writeFileSync(list, asked.join('\n'));
  const open = ['--add-exports', 'java.base/sun.security.rsa=ALL-UNNAMED'];
  const said = execFileSync('java', [...open, '-cp', classes, 'VerdictsByLevel', list], {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'ignore'],
    maxBuffer: 2 ** 26,
  });
  return said
    .trim()
    .split('\n')
    .map((line) => {
      const [file = '', level, , verdict, why = ''] = line.split('\t');
      return { file, level: Number(level), accepted: verdict === 'accepted', why };
    });
}

async function levelsOf(file: string, minSdk?: number): Promise<LevelVerdict[] | string> {
  const options = { texts: false, ...(minSdk && { signedFor: { minSdk } }) };
  try {
    return await withPackage(file, ({ app }) => app.signing.levels!, options);
  } catch (error) {
    if (!(error instanceof UnreadableError)) throw error;
    return error.problem.found;
  }
}

/** Why we refuse it; undefined where we take it. */
function refusal(levels: LevelVerdict[] | string, level: number): string | undefined {
  if (typeof levels === 'string') return levels;
  const met =
    level === ALL_LEVELS
      ? levels
      : levels.filter(({ from, until = Number.POSITIVE_INFINITY }) => from <= level && level <= until);
  // what holds of a level among others is no matter where that level stands alone
  const counts = ({ code }: Problem) => level === ALL_LEVELS || code !== 'signature.other-signer';
  return met.flatMap(({ problems }) => problems).find(counts)?.found;
}

const whereHad = corpus ? test : test.skip;

whereHad(
  'every verdict is that of the platform’s verifier, and nothing is taken that it refuses',
  async () => {
    compileVerifier(corpus!);
    const folder = join(corpus!, 'test/resources/com/android/apksig');
    const files = readdirSync(folder).filter((name) => name.endsWith('.apk'));
    const asked = files.flatMap((name) =>
      [ALL_LEVELS, ...LEVELS].map((level) => [join(folder, name), level, level].join('\t')),
    );
    const taken: string[] = [];
    const refused: string[] = [];
    const mine = new Map<string, LevelVerdict[] | string>();
    const rows = askPlatform(asked);
    for (const { accepted, file, level, why } of rows) {
      const key = level === ALL_LEVELS ? file : `${file} by level`;
      const levels = mine.get(key) ?? (await levelsOf(file, level === ALL_LEVELS ? undefined : 1));
      mine.set(key, levels);
      const found = refusal(levels, level);
      const row = `${basename(file)} at ${level || 'all its levels'}: ${found ?? why}`;
      if (!found && !accepted) taken.push(row);
      if (found && accepted) refused.push(row);
    }
    process.stderr.write(
      `signatures: ${rows.length - taken.length - refused.length} of ${rows.length} verdicts on ${files.length} packages agree\n`,
    );
    expect(rows.length).toBeGreaterThan(5000);
    // a level before the one that a key was rotated for goes by the older scheme: the verifier refuses it when asked for
    // that level alone, and takes it when asked from there to the level of the rotation
    const before = taken.filter((row) => /^v31-rsa-2048_2-tgt-(34|10000)-/.test(row));
    expect(taken.filter((row) => !before.includes(row))).toEqual([]);
    const again = before.map((row) => {
      const [, name, level, rotation] = /^(.*?tgt-(?:34|10000).*?\.apk) at (\d+): .*min: (\d+)/.exec(row)!;
      return [join(folder, name!), level, rotation].join('\t');
    });
    expect(askPlatform(again).filter(({ accepted }) => !accepted)).toEqual([]);
    // a file without a manifest is no package, whatever its signature is worth
    expect(refused.filter((row) => !row.startsWith('v2-only-empty.apk'))).toEqual([]);
  },
);
