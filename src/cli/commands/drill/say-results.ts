import type { Outcome } from '../../../core/model/outcome.ts';
import { drillMatrix, type MatrixCell } from '../../../core/reports/drill-matrix.ts';
import { printableText } from '../../../core/reports/escape.ts';
import type { PutBack } from '../../../device/borrow/borrower.ts';
import type { StepResult } from '../../../device/drill-session.ts';
import { sayStepOf } from '../../../device/drills/plan.ts';
import type { Io } from '../../io.ts';
import { styleFor } from '../../style.ts';

const OUTCOMES: Record<string, Outcome> = {
  restored: 'passed',
  'partly-restored': 'failed',
  restarted: 'failed',
  crashed: 'failed',
  invalid: 'untested',
};

/** A matrix of screens by drills, then what came to nothing. */
export function sayResults(device: string, results: readonly StepResult[], io: Io): string {
  const style = styleFor(io);
  const cells: MatrixCell[] = results.flatMap(({ came, step, trouble }) =>
    step.kind === 'screen' && came
      ? [{ screen: step.screen.id, drill: step.drill, outcome: OUTCOMES[came.kind]!, why: trouble }]
      : [],
  );
  const captured = results.filter(({ step, trouble }) => step.kind === 'capture' && !trouble).length;
  const troubles = results.filter(({ step, trouble }) => trouble && step.kind !== 'screen');
  const seconds = Math.round(results.reduce((sum, { tookMs }) => sum + tookMs, 0) / 1000);
  const lines = [
    `${style.strong(device)}  ${results.length} run in ${seconds} s${captured > 0 ? `, ${captured} captures` : ''}`,
    ...(cells.length > 0 ? ['', ...drillMatrix(cells, { style, widthColumns: io.columns })] : []),
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
