import { Button, Tabs } from '@mantine/core';
import { factsOfTrace, findInTrace } from 'fenlok';
import { useEffect, useMemo, useRef, useState } from 'react';
import { FindingList } from '../../parts/finding-list.tsx';
import { useKeys } from '../../parts/keys.ts';
import { AdsPanel } from './ads-panel.tsx';
import { AppChoice } from './app-choice.tsx';
import { ClockBar } from './clock-bar.tsx';
import { type LookedAt, openTrace, played } from './looked-at.ts';
import { PhoneView } from './phone-view.tsx';
import { fetchProject, type ServedProject } from './project.ts';
import { formatLine } from './say-line.ts';
import { SituationsPanel } from './situations-panel.tsx';
import { StoreEvents } from './store-events.tsx';
import { TimelinePlot } from './timeline-plot.tsx';
import { TracePanel } from './trace-panel.tsx';
import { useRehearsal } from './use-rehearsal.ts';

/** The page, once it knows what is rehearsed. */
export function RehearsalPage() {
  const [project, setProject] = useState<ServedProject>();
  const [problem, setProblem] = useState('');
  useEffect(() => {
    fetchProject().then(setProject, (error: Error) => setProblem(error.message));
  }, []);
  return (
    <div className="rehearsal">
      {problem && (
        <div role="alert" className="problems">
          <p>
            <b>▲ Nothing to rehearse.</b> {problem}
          </p>
        </div>
      )}
      {project && <Stage project={project} />}
    </div>
  );
}

function Stage({ project }: { project: ServedProject }) {
  const playing = useRehearsal(project);
  const { rehearsal } = playing;
  const [tab, setTab] = useState('situations');
  const [chosen, setChosen] = useState('');
  const [opened, setOpened] = useState<LookedAt>();
  const [problem, setProblem] = useState('');
  const lookedAt = opened ?? played(rehearsal);
  const found = useFound(project, lookedAt, playing.isPlaying);
  const open = (file: File) => {
    setProblem('');
    openTrace(file).then(setOpened, (error: Error) => setProblem(error.message));
  };
  useKeys({
    p: () => (playing.isPlaying ? playing.pause() : playing.play()),
    u: () => playing.canUndo && playing.undo(),
  });

  return (
    <>
      <ClockBar playing={playing} />
      <main className="stage">
        <div className="played">
          <AppChoice playing={playing} />
          <div className="phones">
            {rehearsal.phones.map((phone, i) => (
              <PhoneView key={phone.device} phone={phone} number={i as 0 | 1} playing={playing} />
            ))}
          </div>
          <StoreEvents playing={playing} />
        </div>
        <div className="seen">
          <JustNow lookedAt={lookedAt} refusal={playing.refusal} onBack={() => setOpened(undefined)} />
          <div role="alert" className="problems">
            {problem && (
              <p>
                <b>▲ Not opened.</b> {problem}
              </p>
            )}
          </div>
          <TimelinePlot lookedAt={lookedAt} products={project.intent.purchases.products} />
          <Tabs value={tab} onChange={(value) => setTab(value ?? tab)} keepMounted={false}>
            <Tabs.List aria-label="What is seen of it">
              <Tabs.Tab value="situations">Situations</Tabs.Tab>
              <Tabs.Tab value="found">Found ({found.played.length})</Tabs.Tab>
              <Tabs.Tab value="ads">Ads</Tabs.Tab>
              <Tabs.Tab value="trace">Trace ({lookedAt.lines.length})</Tabs.Tab>
            </Tabs.List>
            <Tabs.Panel value="situations">
              <SituationsPanel table={found.situations} findings={found.findings} />
            </Tabs.Panel>
            <Tabs.Panel value="found">
              {found.played.length === 0 ? (
                <p className="note">Nothing so far. What was not played shows nothing: see the situations.</p>
              ) : (
                <FindingList findings={found.played} chosen={chosen} onChoose={setChosen} />
              )}
            </Tabs.Panel>
            <Tabs.Panel value="ads">
              <AdsPanel
                playing={playing}
                lines={lookedAt.lines}
                table={found.ads}
                findings={found.findings}
              />
            </Tabs.Panel>
            <Tabs.Panel value="trace">
              <TracePanel lines={lookedAt.lines} appId={project.intent.app.id} onOpen={open} />
            </Tabs.Panel>
          </Tabs>
        </div>
      </main>
      <footer className="note">
        Every touch takes ten seconds. Keys: P plays and pauses, N goes to what comes next, D a day on, U
        takes back. What was played is kept in this browser.
      </footer>
    </>
  );
}

/** What happened last; or which trace is looked at in the place of the rehearsal. */
function JustNow(props: { lookedAt: LookedAt; refusal: string; onBack(): void }) {
  const { lookedAt, onBack, refusal } = props;
  const last = lookedAt.lines.at(-1);
  if (lookedAt.name !== undefined)
    return (
      <div className="keys">
        <p role="status" className="just-now">
          Looking at {lookedAt.name}
        </p>
        <Button variant="outline" onClick={onBack}>
          Back to the rehearsal
        </Button>
      </div>
    );
  return (
    <p role="status" className="just-now">
      {refusal ? (
        <>
          <span className="failed">▲ Refused:</span> {refusal}
        </>
      ) : last ? (
        `Just now: ${formatLine(last)}`
      ) : (
        'Open the app on a phone, and buy something.'
      )}
    </p>
  );
}

const JUDGES_EVERY_MS = 1000;

/** Judged again when lines were added, by the same checks as those of `fenlok judge`; while time runs, now and then. */
function useFound({ intent, packageFacts }: ServedProject, { lines }: LookedAt, isPlaying: boolean) {
  // the lines grow in place
  const judged = useRef({ lines, length: lines.length, atMs: 0 });
  const isDue =
    !isPlaying || lines !== judged.current.lines || Date.now() - judged.current.atMs > JUDGES_EVERY_MS;
  if (isDue && (lines !== judged.current.lines || lines.length !== judged.current.length))
    judged.current = { lines, length: lines.length, atMs: Date.now() };
  const { length } = judged.current;
  return useMemo(() => {
    const trace = { digest: 'rehearsal', platform: 'android' as const, lines: lines.slice(0, length) };
    const found = findInTrace([...packageFacts, ...factsOfTrace(trace)], intent);
    const played = found.findings.filter(({ occurrences }) =>
      occurrences.some(({ evidence }) => evidence === trace.digest),
    );
    return { ...found, played };
  }, [lines, length, intent, packageFacts]);
}
