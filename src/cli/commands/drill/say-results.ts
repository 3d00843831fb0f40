import { indexFacts } from '../../../core/areas/check.ts';
import { checks } from '../../../core/areas/checks.ts';
import { collectFindings } from '../../../core/checklist/collect-findings.ts';
import { coverDrills } from '../../../core/checklist/cover-drills.ts';
import { coverPush } from '../../../core/checklist/cover-push.ts';
import { coverRoutes } from '../../../core/checklist/cover-routes.ts';
import type { Intent } from '../../../core/model/intent.ts';
import type { OutcomeTable } from '../../../core/model/judgement.ts';
import { drillMatrix, type MatrixCell, matrixCell } from '../../../core/reports/drill-matrix.ts';
import { printableText } from '../../../core/reports/escape.ts';
import { outcomeTable } from '../../../core/reports/outcome-table.ts';
import type { PutBack } from '../../../device/borrow/borrower.ts';
import type { StepResult } from '../../../device/drill-session.ts';
import { sayStepOf } from '../../../device/drills/plan.ts';
import type { Io } from '../../io.ts';
import { styleFor } from '../../style.ts';

const ofDrills = checks.filter(({ needs }) => needs[0] === 'drill-run');

/** What came of the runs of this call, judged like the dossier: a cell for each screen and drill. */
function cellsOf(results: readonly StepResult[], intent: Intent): MatrixCell[] {
  const facts = indexFacts(results.flatMap(({ run }) => run ?? []));
  const findings = collectFindings(ofDrills, facts, intent).flatMap((report) => report.findings);
  return coverDrills(facts, findings, intent, 'android', false)
    .filter(({ evidence }) => evidence.length > 0)
    .map(matrixCell);
}

const ofLinks = checks.filter(({ needs }) => needs[0] === 'link-run');
const ON_DEVICE = ['cold', 'warm', 'in front', 'variants', 'malformed'];

/** What came of the links of this call, without what only the package or a site could tell. */
function routesOf(results: readonly StepResult[], intent: Intent): OutcomeTable {
  const runs = results.flatMap(({ links }) => links ?? []);
  const facts = indexFacts(runs);
  const findings = collectFindings(ofLinks, facts, intent).flatMap((report) => report.findings);
  const { columns, rows } = coverRoutes(facts, findings, intent, false);
  const kept = columns.flatMap((column, i) => (ON_DEVICE.includes(column) ? [i] : []));
  const fired = intent.links.routes.map(({ id }) => runs.some(({ route }) => route === id));
  return {
    columns: kept.map((i) => columns[i]!),
    rows: rows.filter((_, i) => fired[i]).map((row) => ({ ...row, cells: kept.map((i) => row.cells[i]!) })),
  };
}

const ofPush = checks.filter(({ needs }) => needs[0] === 'push-run');

/** The same of the messages of this call, without their payloads, which were not looked at here. */
function messagesOf(results: readonly StepResult[], intent: Intent): OutcomeTable {
  const sent = results.flatMap(({ push }) => push ?? []);
  if (sent.length === 0) return { columns: [], rows: [] };
  const facts = indexFacts(sent);
  const findings = collectFindings(ofPush, facts, intent).flatMap((report) => report.findings);
  const { columns, rows } = coverPush(facts, findings, intent, false);
  return {
    columns: columns.slice(1),
    rows: rows.map((row) => ({ ...row, cells: row.cells.slice(1) })),
  };
}

/** A matrix of screens by drills, then what came to nothing. */
export function sayResults(device: string, results: readonly StepResult[], intent: Intent, io: Io): string {
  const style = styleFor(io);
  const cells = cellsOf(results, intent);
  const captured = results.filter(({ step, trouble }) => step.kind === 'capture' && !trouble).length;
  const troubles = results.filter(({ step, trouble }) => trouble && step.kind !== 'screen');
  const routes = routesOf(results, intent);
  const messages = messagesOf(results, intent);
  const seconds = Math.round(results.reduce((sum, { tookMs }) => sum + tookMs, 0) / 1000);
  const lines = [
    `${style.strong(device)}  ${results.length} run in ${seconds} s${captured > 0 ? `, ${captured} captures` : ''}`,
    ...(cells.length > 0 ? ['', ...drillMatrix(cells, { style, widthColumns: io.columns })] : []),
    ...(routes.rows.length > 0 ? ['', ...outcomeTable(routes, { style, widthColumns: io.columns })] : []),
    ...(messages.rows.length > 0 ? ['', ...outcomeTable(messages, { style, widthColumns: io.columns })] : []),
    ...troubles.map(
      ({ step, trouble }) =>
        `${style.outcome('untested', '□')} ${sayStepOf(step)}: ${printableText(trouble!)}`,
    ),
    '',
    'What of it departs, and why:  fenlok judge',
  ];
  return `${lines.join('\n')}\n`;
}

export const forMachines = ({
  device,
  name,
  putBack: back,
  results,
}: {
  device: string;
  name: string;
  putBack: PutBack[];
  results: StepResult[];
}) => ({
  device,
  name,
  runs: results.map(({ came, step, tookMs, trouble }) => ({
    what: sayStepOf(step),
    drill: step.drill,
    screen: 'screen' in step ? step.screen.id : undefined,
    came,
    trouble,
    tookMs,
  })),
  putBack: back,
});

export const sayPutBack = (done: readonly PutBack[]): string[] =>
  done.map(({ now, setting, was }) =>
    now === was
      ? `${setting} reads ${was ?? 'no value'} again`
      : `▲ ${setting} reads ${now ?? 'no value'}, and was ${was ?? 'no value'}`,
  );
