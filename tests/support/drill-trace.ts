import type { TraceEvidence } from '../../src/core/areas/observer.ts';
import type { DrillLine, SeenLine, TraceLine } from '../../src/core/model/trace.ts';
import type { UiNode } from '../../src/core/model/ui-tree.ts';
import { aCell, ui } from './facts.ts';

type Process = { pid: number; startTicks?: number } | null;

export interface DrillTrace {
  drill: string;
  screen?: string;
  deviceId?: string;
  at?: string;
  /** Trees by step; a step without one is left out. */
  seen?: Record<string, UiNode>;
  /** Activity in front by step, where it is not `.BookingActivity`. */
  activities?: Record<string, string>;
  processes?: Record<string, Process>;
  /** Told while the screen was left: tag and message. */
  log?: [tag: string, message: string][];
  /** Told on the way back. */
  logAfter?: [tag: string, message: string][];
  more?: DrillLine[];
}

const APP = 'example.app';
const AT = '2026-11-23T10:00:00.000Z';
const STOPPED: [string, string] = ['wm_on_stop_called', `[1,${APP}.BookingActivity,STOP]`];

/** What a drill writes down of a run that went well, with what differs from it. */
export function drillTrace(of: DrillTrace): TraceEvidence {
  const {
    activities = {},
    at = AT,
    drill,
    log = [STOPPED],
    logAfter = [],
    more = [],
    screen = 'booking',
  } = of;
  const form = formScreen({});
  const seen: Record<string, UiNode> = {
    first: startScreen,
    reached: form,
    before: form,
    'before-again': form,
    after: form,
    ...of.seen,
  };
  const processes: Record<string, Process> = {
    before: { pid: 7, startTicks: 70 },
    after: { pid: 7, startTicks: 70 },
    ...of.processes,
  };
  const lines: (TraceLine | SeenLine)[] = [
    {
      at,
      kind: 'drill.began',
      drill,
      cell: { ...aCell, screen, procedure: drill },
      appId: APP,
      deviceId: of.deviceId ?? 'D1',
      sdk: 34,
      densityDpi: 160,
    },
  ];
  const see = (step: string) => {
    const tree = seen[step];
    if (tree)
      lines.push({
        at,
        kind: 'screen.seen',
        step,
        activity: activities[step] ?? `${APP}/.${step === 'first' ? 'Start' : 'Booking'}Activity`,
        hierarchy: 'x',
        tree,
      });
    if (step in processes) lines.push({ at, kind: 'process.seen', step, ...processes[step] });
  };
  const tell = (told: [string, string][]) => {
    for (const [tag, message] of told) lines.push({ at, kind: 'log.line', tag, pid: 1, message });
  };
  for (const step of ['first', 'reached', 'before', 'before-again', 'away']) see(step);
  tell(log);
  see('after');
  for (const step of Object.keys(seen).filter((name) => name.startsWith('back-'))) see(step);
  tell(logAfter);
  lines.push(...more, { at, kind: 'drill.ended' });
  return { digest: `${drill} ${screen} ${at}`, platform: 'android', lines };
}

export const startScreen = ui(
  [0, 0, 200, 400],
  { id: 'start' },
  ui([0, 0, 200, 50], { id: 'list', text: 'Sailings' }),
);

interface Form {
  note?: string;
  bike?: boolean;
  focused?: boolean;
  clock?: string;
  /** Rows are told apart by their texts; the first is so many pixels above the edge. */
  scrolledPx?: number;
  dialog?: boolean;
  widthPx?: number;
}

/** A form with a note, a switch and a list that scrolls; or the dialog above it, in its place as in a dump. */
export function formScreen({
  bike = true,
  clock = '9:41',
  dialog,
  focused = false,
  note = '',
  scrolledPx = 0,
  widthPx = 200,
}: Form): UiNode {
  if (dialog)
    return ui(
      [20, 100, 160, 120],
      { id: 'details' },
      ui([30, 110, 100, 20], { id: 'details_title', text: 'Ticket' }),
    );
  return ui(
    [0, 0, widthPx, 400],
    { id: 'form' },
    ui([0, 0, 60, 20], { id: 'clock', text: clock }),
    ui([0, 20, 100, 20], { id: 'title', text: 'Book a crossing' }),
    ui([0, 40, 100, 30], { id: 'note', className: 'EditText', text: note, hint: '', focused }),
    ui([0, 70, 100, 30], { id: 'bike', checkable: true, checked: bike }),
    ui(
      [0, 100, 200, 200],
      { id: 'rows', scrollable: true },
      ...Array.from({ length: 8 }, (_, i) =>
        ui([0, 100 + i * 40 - scrolledPx, 200, 40], { id: 'row', text: `Row ${i}` }),
      ).filter(({ bounds }) => bounds.y + bounds.height > 100 && bounds.y < 300),
    ),
  );
}
