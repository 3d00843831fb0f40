import { type FactIndex, indexFacts } from '../../../core/areas/check.ts';
import { checks } from '../../../core/areas/checks.ts';
import { collectFindings } from '../../../core/checklist/collect-findings.ts';
import { coverDrills } from '../../../core/checklist/cover-drills.ts';
import { matrices } from '../../../core/checklist/matrices/matrices.ts';
import { MatrixContext } from '../../../core/checklist/matrices/matrix.ts';
import { type DrillId, isScreenDrill } from '../../../core/model/drill.ts';
import type { Intent } from '../../../core/model/intent.ts';
import type { OutcomeTable } from '../../../core/model/judgement.ts';
import { drillMatrix, type MatrixCell, matrixCell } from '../../../core/reports/drill-matrix.ts';
import { printableText } from '../../../core/reports/escape.ts';
import { outcomeTable } from '../../../core/reports/outcome-table.ts';
import type { StepResult } from '../../../device/drill-session.ts';
import type { PutBack } from '../../../device/overrides/setting-overrides.ts';
import type { Io } from '../../io.ts';
import { styleFor } from '../../style.ts';
import { ratingLines } from './rating-lines.ts';

const ofDrills = checks.filter(({ needs }) => needs === 'drill-run');

/** What came of the runs of this call, judged like the dossier: a cell for each screen and drill. */
function cellsOf(results: readonly StepResult[], intent: Intent): MatrixCell[] {
  const facts = indexFacts(
    results.flatMap(({ facts: own }) => own.filter((fact) => fact.kind === 'drill-run')),
  );
  const findings = collectFindings(ofDrills, facts, intent).flatMap((report) => report.findings);
  return coverDrills(facts, findings, intent, 'android', false)
    .filter(({ evidence }) => evidence.length > 0)
    .map(matrixCell);
}

/** Of routes, messages, purchases and ads: all that the dossier knows by now, since the package and the sites count too. */
function tablesOf(results: readonly StepResult[], intent: Intent, known: FactIndex): OutcomeTable[] {
  const findings = collectFindings(checks, known, intent).flatMap((report) => report.findings);
  const context = new MatrixContext(known, intent, findings, false);
  return matrices
    .filter(({ drill }) => results.some(({ step }) => step.drill === drill))
    .map((matrix) => matrix.table(context));
}

/** Whether what a drill finds is told in a table of its own, by all that the dossier knows. */
export const isTabledDrill = (id: DrillId): boolean => matrices.some(({ drill }) => drill === id);

/** A matrix of screens by drills, then what came to nothing. */
export function formatResults(
  device: string,
  results: readonly StepResult[],
  intent: Intent,
  io: Io,
  known?: FactIndex,
): string {
  const style = styleFor(io);
  const cells = cellsOf(results, intent);
  const captured = results.filter(({ step, trouble }) => step.drill === 'capture-sweep' && !trouble).length;
  const troubles = results.filter(({ step, trouble }) => trouble && !isScreenDrill(step.drill));
  const tables = known ? tablesOf(results, intent, known) : [];
  const ratings = ratingLines(results.flatMap(({ facts }) => facts));
  const seconds = Math.round(results.reduce((sum, { tookMs }) => sum + tookMs, 0) / 1000);
  const lines = [
    `${style.strong(device)}  ${results.length} run in ${seconds} s${captured > 0 ? `, ${captured} captures` : ''}`,
    ...(cells.length > 0 ? ['', ...drillMatrix(cells, { style, widthColumns: io.columns })] : []),
    ...tables.flatMap((table) => ['', ...outcomeTable(table, { style, widthColumns: io.columns })]),
    ...(ratings.length > 0 ? ['', 'The question for a rating', ...ratings] : []),
    ...troubles.map(
      ({ step, trouble }) => `${style.outcome('untested', '□')} ${step.says}: ${printableText(trouble!)}`,
    ),
    '',
    'What failed in it, and why:  fenlok judge',
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
  runs: results.map(({ came, facts, step, tookMs, trouble }) => ({
    what: step.says,
    drill: step.drill,
    screen: step.screen,
    came,
    facts: facts.filter(({ kind }) => kind !== 'drill-run'),
    trouble,
    tookMs,
  })),
  putBack: back,
});

export const formatPutBack = (done: readonly PutBack[]): string[] =>
  done.map(({ now, setting, was }) =>
    now === was
      ? `${setting} reads ${was ?? 'no value'} again`
      : `▲ ${setting} reads ${now ?? 'no value'}, and was ${was ?? 'no value'}`,
  );

/** Of settings that a call before had left changed; nothing where there were none. */
export const formatRestoredFirst = (serial: string, done: readonly PutBack[]): string =>
  done.length === 0
    ? ''
    : `${serial}: a call that was killed had left settings changed\n${formatPutBack(done)
        .map((line) => `${serial}: ${line}\n`)
        .join('')}`;
