// How far findings on screens can be believed: a suite of tests is run on any seeds, prints its tables, and with --write puts
// them into docs/accuracy.md.
//   npm run bench -- truth [--seeds 1,2,3] [--count 10] [--write]     contrast, against truth from separate paintings
//   npm run bench -- real-pages [--write]                             contrast, on pages that others drew; fetched from npm
//   npm run bench -- designs [--write]                                size and weight of texts, on type designs fetched from npm
//   npm run bench -- plants [--seeds 1,2,3] [--count 10] [--write]    defects planted on screens, and look-alikes
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';

const SUITES = {
  truth: {
    file: 'tests/pages/screen-truth.test.ts',
    seeds: Array.from({ length: 30 }, (_, i) => 1000 + i),
    count: '2',
    env: { TRUTH_MANNERS: '6' },
  },
  plants: {
    file: 'tests/pages/plants.test.ts',
    seeds: Array.from({ length: 10 }, (_, i) => 1000 + i),
    count: '3',
    env: {},
  },
  'real-pages': {
    file: 'tests/pages/real-pages.test.ts',
    seeds: [],
    count: '',
    env: { REAL_PAGES: 'all' },
  },
  designs: {
    file: 'tests/pages/type-designs.test.ts',
    seeds: [],
    count: '',
    env: { DESIGNS: 'all' },
  },
};
export const truthSuites = Object.keys(SUITES);

export function benchTruth(root, name, args) {
  const suite = SUITES[name];
  const { values } = parseArgs({
    args,
    options: {
      seeds: { type: 'string', default: suite.seeds.join(',') },
      count: { type: 'string', default: suite.count },
      write: { type: 'boolean', default: false },
    },
  });
  const folder = mkdtempSync(join(tmpdir(), 'fenlok-truth-'));
  const out = join(folder, 'truth.json');
  try {
    const jest = join(root, 'node_modules', 'jest', 'bin', 'jest.js');
    spawnSync(
      process.execPath,
      ['--experimental-vm-modules', '--disable-warning=ExperimentalWarning', jest, suite.file],
      {
        cwd: root,
        stdio: ['ignore', 'ignore', 'inherit'],
        env: {
          ...process.env,
          ...suite.env,
          TRUTH_SEEDS: values.seeds,
          TRUTH_COUNT: values.count,
          TRUTH_OUT: out,
        },
      },
    );
    if (!existsSync(out)) {
      console.error('nothing was drawn: is Chromium installed? The lines above say what stopped it');
      return 5;
    }
    const { tables, wrong } = JSON.parse(readFileSync(out, 'utf8'));
    for (const table of Object.values(tables)) console.log(`\n${table}`);
    for (const one of wrong) console.log(`wrong: ${typeof one === 'string' ? one : JSON.stringify(one)}`);
    if (values.write) writeTables(join(root, 'docs', 'accuracy.md'), tables);
    return wrong.length === 0 ? 0 : 1;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Each between two comments that name it. */
function writeTables(file, tables) {
  let text = readFileSync(file, 'utf8');
  for (const [name, table] of Object.entries(tables)) {
    const [head, ...rows] = table.split('\n').map((line) => line.split('\t').map((cell) => cell.trim()));
    const lines = [head, head.map((_, i) => (i === 0 ? '---' : '---:')), ...rows].map(
      (cells) => `| ${cells.join(' | ')} |`,
    );
    const [from, to] = [`<!-- ${name} -->`, `<!-- end of ${name} -->`];
    text = text.replace(new RegExp(`${from}[^]*?${to}`), `${from}\n${lines.join('\n')}\n${to}`);
  }
  writeFileSync(file, text);
}
