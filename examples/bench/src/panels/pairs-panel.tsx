import { NativeSelect, SegmentedControl } from '@mantine/core';
import type { Finding } from 'fenlok';
import { useEffect, useState } from 'react';
import { FindingList } from '../../../parts/finding-list.tsx';
import type { PanelProps } from '../bench.tsx';
import { counterpartsOf } from '../library.ts';
import { type Mark, type Point, ScreenPicture } from '../screen-picture.tsx';
import { useScreen } from '../use-screen.ts';
import type { BenchElement, BenchScreen } from '../worker/bench-screen.ts';
import { measuring } from '../worker/client.ts';

const KINDS = {
  theme: 'Light and dark',
  textScale: 'Text sizes',
  locale: 'Languages',
} as const;
type Kind = keyof typeof KINDS;

/** One screen twice, side by side: what the pointer is on is outlined in both, with both measurements. */
export function PairsPanel({ entries, entry, shown, view }: PanelProps) {
  const [kind, setKind] = useState<Kind>('theme');
  const [counterpartId, setCounterpartId] = useState('');
  const [ref, setRef] = useState('');
  const alike = counterpartsOf(entries, entry, kind);
  // files that were dropped say nothing of their cell, so any of them may be the counterpart
  const offered =
    alike.length > 0 ? alike : entries.filter((other) => other !== entry && other.id.startsWith('dropped'));
  const counterpartEntry = offered.find(({ id }) => id === counterpartId) ?? offered[0];
  const counterpart = useScreen(counterpartEntry, view);
  const findings = useCompared(shown.screen!, counterpart.screen);
  const [chosen, setChosen] = useState('');
  const point = (screen: BenchScreen | undefined) => (at: Point) =>
    setRef(screen ? refAt(screen.elements, at) : '');
  const sides = [shown.screen!, ...(counterpart.screen ? [counterpart.screen] : [])];
  const found = findings.find(({ id }) => id === chosen);
  const refs = [...new Set(sides.flatMap(({ elements }) => elements.map((element) => element.ref)))];

  return (
    <>
      <ScreenPicture
        shown={shown}
        marks={marksOf(shown.screen!, ref, found)}
        name={`Picture of ${shown.screen!.title}`}
        onMove={point(shown.screen)}
      />
      {counterpart.screen && (
        <ScreenPicture
          shown={counterpart}
          marks={marksOf(counterpart.screen, ref, found)}
          name={`Picture of ${counterpart.screen.title}`}
          onMove={point(counterpart.screen)}
        />
      )}
      <section className="side" aria-label="Pairs">
        <SegmentedControl
          aria-label="Side by side"
          data={Object.entries(KINDS).map(([value, label]) => ({ value, label }))}
          value={kind}
          onChange={(value) => setKind(value as Kind)}
        />
        {offered.length > 1 && (
          <NativeSelect
            label="Beside"
            data={offered.map(({ id, title }) => ({ value: id, label: title }))}
            value={counterpartEntry!.id}
            onChange={({ currentTarget }) => setCounterpartId(currentTarget.value)}
          />
        )}
        {!counterpartEntry && (
          <p>There is no capture of this screen that differs in this alone, so it is half untested.</p>
        )}
        {counterpart.problem && <p className="failed">▲ {counterpart.problem}</p>}
        {counterpart.screen && (
          <>
            <Measured sides={sides} of={ref} />
            <NativeSelect
              label="Element to compare"
              data={[
                { value: '', label: 'point at one, or choose' },
                ...refs.map((one) => ({ value: one, label: nameOf(sides, one) })),
              ]}
              value={ref}
              onChange={({ currentTarget }) => setRef(currentTarget.value)}
            />
            <h3>{findings.length === 0 ? '■ Nothing was found by comparing' : 'Found by comparing'}</h3>
            <FindingList findings={findings} chosen={chosen} onChoose={setChosen} />
          </>
        )}
      </section>
    </>
  );
}

function useCompared(screen: BenchScreen, counterpart: BenchScreen | undefined): Finding[] {
  const [findings, setFindings] = useState<Finding[]>([]);
  useEffect(() => {
    let current = true;
    setFindings([]);
    if (counterpart)
      void measuring.compare(screen.id, counterpart.id).then((found) => current && setFindings(found));
    return () => {
      current = false;
    };
  }, [screen, counterpart]);
  return findings;
}

function marksOf(screen: BenchScreen, ref: string, found: Finding | undefined): Mark[] {
  const element = screen.elements.find((one) => one.ref === ref);
  return [
    ...(element ? [{ id: ref, boundsPx: element.boundsPx, tone: 'active' as const }] : []),
    ...(found?.occurrences ?? []).flatMap(({ boundsPx, evidence }, i): Mark[] =>
      boundsPx && evidence === screen.id ? [{ id: `found ${i}`, boundsPx, tone: 'failed' }] : [],
    ),
  ];
}

/** The smallest element there. */
function refAt(elements: readonly BenchElement[], { x, y }: Point): string {
  const size = ({ boundsPx: { height, width } }: BenchElement) => width * height;
  return (
    elements
      .filter(
        ({ boundsPx: box }) => x >= box.x && x < box.x + box.width && y >= box.y && y < box.y + box.height,
      )
      .reduce<BenchElement | undefined>(
        (best, one) => (!best || size(one) < size(best) ? one : best),
        undefined,
      )?.ref ?? ''
  );
}

const nameOf = (sides: readonly BenchScreen[], ref: string): string =>
  sides.flatMap(({ elements }) => elements.filter((one) => one.ref === ref && one.shown))[0]?.shown || ref;

function Measured({ of, sides }: { sides: readonly BenchScreen[]; of: string }) {
  const columns = sides.map((screen) => ({ screen, element: screen.elements.find(({ ref }) => ref === of) }));
  const dp = (screen: BenchScreen, px: number) => Math.round((px * 160) / screen.densityDpi);
  const rows: [string, (column: (typeof columns)[number]) => string][] = [
    ['text', ({ element }) => element?.shown ?? '–'],
    [
      'contrast',
      ({ element }) => (element?.contrast ? `${Math.floor(element.contrast.ratio * 100) / 100} : 1` : '–'),
    ],
    [
      'colours',
      ({ element }) =>
        element?.contrast ? `${element.contrast.foreground} on ${element.contrast.background}` : '–',
    ],
    ['glyph', ({ element }) => (element?.glyphDp ? `${element.glyphDp.toFixed(1)} dp` : '–')],
    [
      'box',
      ({ element, screen }) =>
        element
          ? `${dp(screen, element.boundsPx.width)} × ${dp(screen, element.boundsPx.height)} dp`
          : 'not there',
    ],
  ];
  return (
    <table>
      <thead>
        <tr>
          <th scope="col">{of ? '' : 'Point at an element'}</th>
          {sides.map(({ id, title }) => (
            <th scope="col" key={id}>
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {of !== '' &&
          rows.map(([name, say]) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              {columns.map((column) => (
                <td key={column.screen.id} dir="auto">
                  {say(column)}
                </td>
              ))}
            </tr>
          ))}
      </tbody>
    </table>
  );
}
