// How far measurements of contrast can be believed: sheets of many families, painted by a browser and by what the stand-in
// phone paints with, against truth from separate paintings. Prints the tables; --write puts them into docs/accuracy.md.
//   npm run bench -- truth [--seeds 1,2,3] [--count 10] [--write]
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';

const MANNERS = 6;

export function benchTruth(root, args) {
  const { values } = parseArgs({
    args,
    options: {
      seeds: { type: 'string', default: Array.from({ length: 30 }, (_, i) => 1000 + i).join(',') },
      count: { type: 'string', default: '2' },
      write: { type: 'boolean', default: false },
    },
  });
  const folder = mkdtempSync(join(tmpdir(), 'fenlok-truth-'));
  const out = join(folder, 'truth.json');
  try {
    const jest = join(root, 'node_modules', 'jest', 'bin', 'jest.js');
    spawnSync(
      process.execPath,
      [
        '--experimental-vm-modules',
        '--disable-warning=ExperimentalWarning',
        jest,
        'tests/pages/screen-truth.test.ts',
      ],
      {
        cwd: root,
        stdio: ['ignore', 'ignore', 'inherit'],
        env: {
          ...process.env,
          SHEET_SEEDS: values.seeds,
          SHEET_COUNT: values.count,
          SHEET_MANNERS: String(MANNERS),
          SHEET_OUT: out,
        },
      },
    );
    if (!existsSync(out)) {
      console.error('the sheets were not drawn: is Chromium installed? The lines above say what stopped it');
      return 5;
    }
    const tables = JSON.parse(readFileSync(out, 'utf8'));
    for (const name of ['byFamily', 'byManner', 'byPainter']) console.log(`\n${tables[name]}`);
    console.log(`\nwrong: ${tables.wrong.length}`);
    if (values.write) writeTables(join(root, 'docs', 'accuracy.md'), tables);
    return tables.wrong.length === 0 ? 0 : 1;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Each between two comments that name it. */
function writeTables(file, tables) {
  let text = readFileSync(file, 'utf8');
  for (const name of ['byFamily', 'byManner', 'byPainter']) {
    const [head, ...rows] = tables[name]
      .split('\n')
      .map((line) => line.split('\t').map((cell) => cell.trim()));
    const lines = [head, head.map((_, i) => (i === 0 ? '---' : '---:')), ...rows].map(
      (cells) => `| ${cells.join(' | ')} |`,
    );
    const [from, to] = [`<!-- ${name} -->`, `<!-- end of ${name} -->`];
    text = text.replace(new RegExp(`${from}[^]*?${to}`), `${from}\n${lines.join('\n')}\n${to}`);
  }
  writeFileSync(file, text);
}
