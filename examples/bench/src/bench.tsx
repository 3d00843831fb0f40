import { Button, FileButton, NativeSelect, Tabs } from '@mantine/core';
import { type View, views } from 'fenlok';
import { type ComponentType, type DragEvent, useEffect, useMemo, useState } from 'react';
import { captureFiles, type Entry, type Facet, facetOf, facets, nearest, servedCaptures } from './library.ts';
import { ColoursPanel } from './panels/colours-panel.tsx';
import { FindingsPanel } from './panels/findings-panel.tsx';
import { PairsPanel } from './panels/pairs-panel.tsx';
import { ScanPanel } from './panels/scan-panel.tsx';
import { StopsPanel } from './panels/stops-panel.tsx';
import { UnseenPanel } from './panels/unseen-panel.tsx';
import { type Shown, useScreen } from './use-screen.ts';

export interface PanelProps {
  shown: Shown;
  entry: Entry;
  entries: readonly Entry[];
  view: View;
}

const PANELS: { id: string; title: string; Panel: ComponentType<PanelProps> }[] = [
  { id: 'findings', title: 'Findings', Panel: FindingsPanel },
  { id: 'stops', title: 'Stops', Panel: StopsPanel },
  { id: 'unseen', title: 'Unseen walk', Panel: UnseenPanel },
  { id: 'scan', title: 'Scanning', Panel: ScanPanel },
  { id: 'colours', title: 'Colours', Panel: ColoursPanel },
  { id: 'pairs', title: 'Pairs', Panel: PairsPanel },
];

const FACETS: Record<Facet, string> = {
  platform: 'Platform',
  screen: 'Screen',
  locale: 'Language',
  theme: 'Theme',
  textScale: 'Text size',
  procedure: 'Procedure',
  orientation: 'Held',
};

const VIEWS: Record<View, string> = {
  plain: 'as it is',
  inverted: 'colours inverted',
  protanopia: 'protanopia',
  deuteranopia: 'deuteranopia',
  tritanopia: 'tritanopia',
};

/** The whole page: what is open at the top, how it is looked at in tabs. */
export function Bench() {
  const [entries, setEntries] = useState<Entry[]>([]);
  const [currentId, setCurrentId] = useState('');
  const [view, setView] = useState<View>('plain');
  const [tab, setTab] = useState('findings');
  const [problems, setProblems] = useState<string[]>([]);
  const entry = useMemo(() => entries.find(({ id }) => id === currentId), [entries, currentId]);
  const shown = useScreen(entry, view);

  useEffect(() => {
    servedCaptures()
      .then((served) => {
        setEntries(served);
        setCurrentId(served[0]?.id ?? '');
      })
      .catch((error: Error) => setProblems([`the server's captures cannot be had: ${error.message}`]));
  }, []);

  const take = async (files: File[]) => {
    const found = await captureFiles(files);
    setProblems(found.problems);
    if (found.entries.length === 0) return;
    setEntries((before) => [...found.entries, ...before]);
    setCurrentId(found.entries[0]!.id);
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    void take([...event.dataTransfer.files]);
  };
  const choose = (facet: Facet, value: string) => {
    const next = entry && nearest(entries, entry, facet, value);
    if (next) setCurrentId(next.id);
  };
  const said = [...problems, ...(shown.problem ? [shown.problem] : [])];

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: dropping files is a second way, beside the button
    <div className="bench" onDragOver={(event) => event.preventDefault()} onDrop={drop}>
      <header>
        <h1>Fenlok bench</h1>
        {entry &&
          facets.map((facet) => {
            const values = [...new Set(entries.map((one) => facetOf(one, facet)))];
            return values.length < 2 ? null : (
              <NativeSelect
                key={facet}
                label={FACETS[facet]}
                data={values.map((value) => ({ value, label: formatFacet(facet, value) }))}
                value={facetOf(entry, facet)}
                onChange={({ currentTarget }) => choose(facet, currentTarget.value)}
              />
            );
          })}
        <NativeSelect
          label="View"
          data={views.map((value) => ({ value, label: VIEWS[value] }))}
          value={view}
          onChange={({ currentTarget }) => setView(currentTarget.value as View)}
        />
        <FileButton onChange={(files) => void take(files)} accept=".png,.webp,.jpg,.jpeg,.xml,.json" multiple>
          {(props) => (
            <Button variant="outline" {...props}>
              Open files…
            </Button>
          )}
        </FileButton>
      </header>
      <div role="alert" className="problems">
        {said.map((problem) => (
          <p key={problem}>
            <b>▲ Not opened.</b> {problem}
          </p>
        ))}
      </div>
      {entry?.guessedDpi && (
        <p className="note">
          Taken for {entry.guessedDpi} dpi by its width; drop a capture.json with it to say what device it is
          of.
        </p>
      )}
      <main>
        {!entry && <Nothing />}
        {entry && (
          <Tabs value={tab} onChange={(value) => setTab(value ?? tab)} keepMounted={false}>
            <Tabs.List aria-label="Ways to look at the screen">
              {PANELS.map(({ id, title }) => (
                <Tabs.Tab key={id} value={id}>
                  {title}
                </Tabs.Tab>
              ))}
            </Tabs.List>
            {PANELS.map(({ id, Panel }) => (
              <Tabs.Panel key={id} value={id}>
                <div className="workspace">
                  {shown.screen ? (
                    <Panel key={shown.screen.id} {...{ shown, entry, entries, view }} />
                  ) : (
                    !shown.problem && <p role="status">Measuring {entry.title} …</p>
                  )}
                </div>
              </Tabs.Panel>
            ))}
          </Tabs>
        )}
      </main>
    </div>
  );
}

function Nothing() {
  return (
    <div className="nothing">
      <h2>Drop a screen here</h2>
      <p>
        A screenshot (PNG, WebP or JPEG) together with the device&rsquo;s UI dump (XML), or a capture (JSON)
        with the files that it names. Nothing leaves this page.
      </p>
    </div>
  );
}

const formatFacet = (facet: Facet, value: string): string =>
  facet === 'textScale'
    ? `${Math.round(Number(value) * 100)} %`
    : value === 'ios'
      ? 'iOS'
      : value === 'android'
        ? 'Android'
        : value;
