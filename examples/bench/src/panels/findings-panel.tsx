import { useState } from 'react';
import { FindingList } from '../../../parts/finding-list.tsx';
import type { PanelProps } from '../bench.tsx';
import { type Mark, ScreenPicture } from '../screen-picture.tsx';

/** What the checks find on this capture alone; the chosen one is outlined. */
export function FindingsPanel({ shown }: PanelProps) {
  const { findings, title } = shown.screen!;
  const [chosen, setChosen] = useState('');
  const marks = new Map<string, Mark>();
  for (const [i, { id, occurrences }] of findings.entries())
    for (const { boundsPx } of occurrences) {
      if (!boundsPx || (chosen && chosen !== id)) continue;
      // several findings on one element share its outline
      const at = Object.values(boundsPx).join(' ');
      const label = [marks.get(at)?.label, String(i + 1)].filter(Boolean).join(', ');
      marks.set(at, { id: at, boundsPx, label, tone: chosen ? 'active' : 'failed' });
    }
  return (
    <>
      <ScreenPicture shown={shown} marks={[...marks.values()]} name={`${title}, what was found outlined`} />
      <section className="side" aria-label="Findings">
        <p role="status" className="spoken">
          {findings.length === 0
            ? '■ Nothing was found on this screen'
            : `${findings.length} found, ${findings.filter(({ basis }) => basis === 'measured').length} of them measured`}
        </p>
        <FindingList findings={findings} chosen={chosen} onChoose={setChosen} />
        <p className="note">
          Of this one capture: what needs the package, another language or a device is not looked at here.
          Pairs of captures are compared under Pairs.
        </p>
      </section>
    </>
  );
}
