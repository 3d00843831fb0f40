/** Every planned cell captured: each screen under each setting, settings changed as seldom as they can be. */
import { plannedCells } from '../../core/checklist/coverage.ts';
import { parseCapture } from '../../core/formats/capture.ts';
import type { Cell } from '../../core/model/cell.ts';
import type { Intent } from '../../core/model/intent.ts';
import { addCapture, listCaptures } from '../../node/captures.ts';
import { readTextFile } from '../../node/read-yaml.ts';
import { type Device, nameOfDevice } from '../device.ts';
import { holdableOf } from '../holdable.ts';
import { navigateTo } from '../phone/navigate-to.ts';
import { captureScreen, isKnownProcedure } from './capture-screen.ts';
import type { Drill, PlannedCell } from './drill.ts';

export const captureSweep: Drill = {
  id: 'capture-sweep',
  *plan({ device, intent, screens }) {
    for (const cell of bySettings(plannedCells(intent))) {
      const screen = screens.find(({ id }) => id === cell.screen);
      const why = whyNot(cell, intent, device);
      if (screen && why) yield { what: describeCell(cell), why };
      else if (screen)
        yield {
          drill: 'capture-sweep',
          says: `capture of ${describeCell(cell)}`,
          key: keyOf(cell),
          cell,
          screen: screen.id,
          estimateS: 8,
          run: async ({ dossier, subject }) => {
            await navigateTo(subject.device, subject.app, screen);
            await addCapture(dossier, `${screen.id}.json`, await captureScreen(cell, subject));
            return { facts: [] };
          },
        };
    }
  },
  doneIn: async (dossier, device) => {
    const done: string[] = [];
    for (const { file } of await listCaptures(dossier)) {
      const { build, cell } = parseCapture(file, await readTextFile(file));
      if (build && cell.device === nameOfDevice(device)) done.push(keyOf(cell));
    }
    return done;
  },
};

function whyNot({ locale, procedure }: PlannedCell, intent: Intent, device: Device): string | undefined {
  if (!isKnownProcedure(procedure, device))
    return `no setting of the device stands for the procedure ${procedure}; capture it by hand`;
  return locale !== intent.sourceLocale && device.info.sdk < (holdableOf(device, 'locale')?.sinceSdk ?? 0)
    ? 'languages of one app alone need Android 13'
    : undefined;
}

function bySettings(cells: readonly PlannedCell[]): PlannedCell[] {
  const groups = new Map<string, PlannedCell[]>();
  for (const cell of cells) {
    const key = settingsOf(cell);
    groups.set(key, [...(groups.get(key) ?? []), cell]);
  }
  return [...groups.values()].flat();
}

/** What of a cell is set on the device. */
export const settingsOf = ({
  locale,
  orientation,
  procedure,
  textScale,
  theme,
}: Omit<Cell, 'device' | 'screen' | 'step'>): string =>
  [procedure, orientation, textScale, locale, theme].join('|');

const keyOf = (cell: Omit<Cell, 'device' | 'step'>): string => `${cell.screen}|${settingsOf(cell)}`;

const describeCell = ({ locale, orientation, procedure, screen, textScale, theme }: PlannedCell): string =>
  [
    screen,
    theme,
    locale,
    ...(textScale === 1 ? [] : [`${Math.round(textScale * 100)} %`]),
    ...(orientation === 'portrait' ? [] : [orientation]),
    ...(procedure === 'as-is' ? [] : [procedure]),
  ].join(', ');
