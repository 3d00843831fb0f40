// `npm run bench -- candidates`: comparing two candidates of 5,000 captures and 5,000 findings each, as a multiple of the time to
// read their judgements; and the reports of the demo. The judgements are those of the demo, again and again under other screens.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from './setup.mjs';

const FINDINGS = 5_000;
const CAPTURES = 5_000;
const ROUNDS = 7;
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];

export async function benchCandidates() {
  const work = mkdtempSync(join(tmpdir(), 'fenlok-candidates-'));
  try {
    execFileSync(process.execPath, [join(root, 'dist/bin/fenlok.js'), 'demo', '--out', work], {
      stdio: 'ignore',
    });
    const file = join(work, 'dossier/judgement.json');
    const demo = JSON.parse(readFileSync(file, 'utf8'));
    const [before, after] = ['before.json', 'after.json'].map((name) => join(work, name));
    writeFileSync(before, JSON.stringify(multiplied(demo, 0)));
    writeFileSync(after, JSON.stringify(multiplied(demo, 1)));
    await comparing(before, after);
    await reporting(file);
  } finally {
    rmSync(work, { recursive: true, force: true });
  }
}

/** Each time under another name of its screens, which are captured on further devices; every tenth finding is left out by turns. */
function multiplied(demo, turn) {
  const onScreens = demo.findings.filter(({ identity }) => identity.screen !== undefined);
  const times = Math.ceil(FINDINGS / onScreens.length);
  const devices = Math.ceil(CAPTURES / (times * demo.coverage.length));
  const named = (text, i) => `${text} ${i}`;
  const cellOf = (cell, i, device) => ({ ...cell, screen: named(cell.screen, i), device: `d${device}` });
  const looked = { ...demo.looked, cells: [], elements: [], captured: '' };
  const copies = Array.from({ length: times }, (_, i) => i);
  const size = demo.looked.cells.length;
  for (const i of copies)
    for (let device = 0; device < devices; device++)
      looked.cells.push(...demo.looked.cells.map((cell) => cellOf(cell, i, device)));
  const everywhere = `0-${looked.cells.length - 1}`;
  looked.captured = everywhere;
  looked.checks = demo.looked.checks.map((check) => ({ ...check, decided: everywhere, lacking: '' }));
  looked.elements = copies.flatMap((i) =>
    demo.looked.elements.map((element) => ({
      ...element,
      screen: named(element.screen, i),
      measured: Object.fromEntries(
        Object.keys(element.measured).map((kind) => [
          kind,
          `${i * devices * size}-${(i + 1) * devices * size - 1}`,
        ]),
      ),
    })),
  );
  const findings = copies.flatMap((i) =>
    onScreens.map((finding, n) => ({
      ...finding,
      id: idOf(i * onScreens.length + n),
      identity: { ...finding.identity, screen: named(finding.identity.screen, i) },
      occurrences: finding.occurrences.map((one) =>
        one.cell ? { ...one, cell: cellOf(one.cell, i, 0) } : one,
      ),
    })),
  );
  return {
    ...demo,
    looked,
    findings: findings.slice(0, FINDINGS).filter((_, n) => n % 10 !== turn),
    cards: [],
    coverage: copies.flatMap((i) =>
      demo.coverage.map((one) => ({ ...one, cell: { ...one.cell, screen: named(one.cell.screen, i) } })),
    ),
  };
}

const idOf = (n) =>
  `${n.toString(32).padStart(8, '0').slice(0, 4)}-${n.toString(32).padStart(8, '0').slice(4)}`;

async function comparing(before, after) {
  const { readComparable } = await import('../dist/node/read-judgement.js');
  const { compareJudgements } = await import('../dist/core/checklist/compare/compare.js');
  const ratios = [];
  let counts;
  for (let round = 0; round < ROUNDS; round++) {
    const start = performance.now();
    const [one, other] = [await readComparable(before), await readComparable(after)];
    const read = performance.now();
    ({ counts } = compareJudgements(one, other));
    ratios.push((performance.now() - start) / (read - start));
  }
  const megabytes = (statSync(before).size + statSync(after).size) / 2 ** 20;
  console.log(
    `\ncomparing two candidates of ${FINDINGS} findings (${megabytes.toFixed(0)} MB of judgements)`,
  );
  console.log(
    `  with reading them, as a multiple of reading alone  ${median(ratios).toFixed(2).padStart(5)}   (wanted: at most 2.0; median of ${ROUNDS})`,
  );
  console.log(
    `  ${Object.entries(counts)
      .flatMap(([change, n]) => (n > 0 ? [`${n} ${change}`] : []))
      .join(', ')}`,
  );
}

async function reporting(file) {
  const { textReports } = await import('../dist/core/reports/formats.js');
  const { checks } = await import('../dist/core/areas/checks.js');
  const judgement = JSON.parse(readFileSync(file, 'utf8'));
  console.log('\nreports of the demo, in seconds');
  for (const [name, { write }] of Object.entries(textReports)) {
    const times = Array.from({ length: ROUNDS }, () => {
      const start = performance.now();
      write(judgement, { version: '0', checks });
      return (performance.now() - start) / 1000;
    });
    const wanted = name === 'sarif' || name === 'markdown' ? '   (wanted: under 0.3)' : '';
    console.log(`  ${name.padEnd(9)} ${median(times).toFixed(3)}${wanted}`);
  }
}
