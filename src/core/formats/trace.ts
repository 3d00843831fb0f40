/** Traces: JSON Lines, one event a line. Lines of drills, purchases and ads are checked closely, and the dumps in them decoded. */
import type { z } from 'zod';
import { adKinds, adLineSchema } from '../model/ad-line.ts';
import { currentDrillName } from '../model/drill.ts';
import { ledgerKinds, ledgerLineSchema } from '../model/ledger.ts';
import { UnreadableError, unwrap } from '../model/problem.ts';
import { ratingKinds, ratingLineSchema } from '../model/rating.ts';
import {
  type DrillLine,
  drillLineSchema,
  type SeenLine,
  type TraceLine,
  traceLineSchema,
} from '../model/trace.ts';
import type { UiNode } from '../model/ui-tree.ts';
import { readHierarchy } from './android/hierarchy.ts';
import { parseLookoutScreen, treeOfLookout } from './apple/lookout-tree.ts';
import { parseJson } from './parse-json.ts';

const DRILL_KINDS = new Set<string>(drillLineSchema.options.map((option) => option.shape.kind.value));

/** @throws UnreadableError with the line that cannot be read */
export async function decodeTrace(file: string, text: string): Promise<TraceLine[]> {
  const lines: TraceLine[] = [];
  for (const [i, line] of text.split('\n').entries()) {
    if (!line.trim()) continue;
    const event = parseJson(file, line, traceLineSchema, '{"at": ISO time, "kind": "…", …}', i + 1);
    if (DRILL_KINDS.has(event.kind)) lines.push(await decodeDrillLine(file, event, i + 1));
    else lines.push(checked(file, event, i + 1));
  }
  return lines;
}

/** A line of a kind that nobody knows may hold anything. */
function checked(file: string, event: TraceLine, line: number): TraceLine {
  if (ledgerKinds.has(event.kind)) return checkedLine(file, event, line, ledgerLineSchema);
  if (ratingKinds.has(event.kind)) return checkedLine(file, event, line, ratingLineSchema);
  return adKinds.has(event.kind) ? checkedLine(file, event, line, adLineSchema) : event;
}

async function decodeDrillLine(file: string, event: TraceLine, line: number): Promise<DrillLine | SeenLine> {
  const data = withCurrentName(checkedLine(file, event, line, drillLineSchema));
  if (data.kind !== 'screen.seen' || data.hierarchy === '') return data;
  return { ...data, tree: await treeOfDump(`${file}, line ${line}`, data.hierarchy) };
}

/** What was in front, as the OS of Android dumps it, or as a lookout on iOS tells it. @throws UnreadableError */
export const treeOfDump = async (place: string, dump: string): Promise<UiNode> =>
  dump.startsWith('{')
    ? treeOfLookout(parseLookoutScreen(place, dump))
    : unwrap(await readHierarchy(place, dump));

/** Traces of before call some drills otherwise. */
function withCurrentName(line: DrillLine): DrillLine {
  if (line.kind !== 'drill.began') return line;
  const drill = currentDrillName(line.drill);
  return { ...line, drill, cell: { ...line.cell, procedure: currentDrillName(line.cell.procedure) } };
}

function checkedLine<T>(file: string, event: TraceLine, line: number, schema: z.ZodType<T>): T {
  const parsed = schema.safeParse(event);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  throw new UnreadableError({
    code: 'trace.line',
    file,
    place: `line ${line}, ${issue!.path.join('.') || event.kind}`,
    found: issue!.message,
    expected: `a line "${event.kind}" with its fields`,
  });
}
