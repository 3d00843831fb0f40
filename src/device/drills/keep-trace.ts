import { traceObservers } from '../../core/areas/observers-by-evidence.ts';
import { decodeTrace } from '../../core/formats/trace.ts';
import type { Fact } from '../../core/model/fact.ts';
import type { DrillLine, TraceLine } from '../../core/model/trace.ts';
import { addTraceLines, type Dossier } from '../../node/dossier.ts';
import type { StepOutcome } from './drill.ts';

/** Keeps what a drill wrote down; what was measured on it, and what stopped it. */
export async function keepTrace(dossier: Dossier, lines: readonly TraceLine[]): Promise<StepOutcome> {
  await addTraceLines(dossier, lines);
  const stopped = (lines as DrillLine[]).find((line) => line.kind === 'drill.stopped');
  return {
    facts: await factsOfLines(lines),
    ...(stopped && { trouble: `${stopped.step}: ${stopped.why}` }),
  };
}

export const factsOfLines = async (lines: readonly TraceLine[]): Promise<Fact[]> =>
  factsOfTrace(await decodeTrace('run', lines.map((line) => JSON.stringify(line)).join('\n')));

/** @param lines with their dumps decoded */
export function factsOfTrace(lines: readonly TraceLine[]): Fact[] {
  const began = (lines as DrillLine[]).find((line) => line.kind === 'drill.began');
  const evidence = { digest: '', platform: began?.platform ?? ('android' as const), lines };
  return traceObservers.flatMap((observer) => [...observer.observe(evidence)]);
}
