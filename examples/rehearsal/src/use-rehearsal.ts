import { StoreClock, StoreRefusal } from 'fenlok/standins/models';
import { useEffect, useReducer, useRef, useState } from 'react';
import { keep, readKept } from './kept.ts';
import type { Act } from './model/acts.ts';
import type { Project, Rehearsal } from './model/rehearsal.ts';
import { Session } from './model/session.ts';

const TICK_MS = 250;

export interface Playing {
  rehearsal: Rehearsal;
  testClock: string | undefined;
  isPlaying: boolean;
  /** Seconds of the store in a real one, while it plays. */
  rate: number;
  canUndo: boolean;
  /** Why the last act was not done; empty where it was. */
  refusal: string;
  act(act: Act): void;
  setRate(rate: number): void;
  play(): void;
  pause(): void;
  undo(): void;
  begin(testClock?: string): void;
}

/** The rehearsal that is played, on a clock that stands still until it is started; kept by the browser. */
export function useRehearsal(project: Project): Playing {
  const appId = project.intent.app.id;
  const [session, setSession] = useState(() => resumed(project) ?? begun(project));
  /** Those that were left for another beginning. */
  const left = useRef<Session[]>([]);
  const clock = useRef(new StoreClock(0, 0, 0));
  const [rate, setRate] = useState(3600);
  const [isPlaying, setPlaying] = useState(false);
  const [refusal, setRefusal] = useState('');
  const [, show] = useReducer((count: number) => count + 1, 0);

  const setClock = (of: Session, at: number) => {
    clock.current = new StoreClock(of.rehearsal.nowMs, performance.now(), at);
  };
  const open = (next: Session) => {
    setPlaying(false);
    setRefusal('');
    setSession(next);
    keep(appId, next.played());
    show();
  };

  useEffect(() => {
    if (!isPlaying) return;
    const timer = setInterval(() => {
      session.playTo(clock.current.nowMs(performance.now()));
      show();
    }, TICK_MS);
    return () => clearInterval(timer);
  }, [isPlaying, session]);
  useEffect(() => {
    const save = () => keep(appId, session.played());
    window.addEventListener('pagehide', save);
    return () => window.removeEventListener('pagehide', save);
  }, [appId, session]);

  return {
    rehearsal: session.rehearsal,
    testClock: session.testClock,
    isPlaying,
    rate,
    canUndo: session.canUndo || left.current.length > 0,
    refusal,
    act: (act) => {
      if (isPlaying) session.playTo(clock.current.nowMs(performance.now()));
      try {
        session.act(act);
        setRefusal('');
      } catch (error) {
        if (!(error instanceof StoreRefusal)) throw error;
        setRefusal(error.message);
      }
      setClock(session, isPlaying ? rate : 0);
      keep(appId, session.played());
      show();
    },
    setRate: (next) => {
      setRate(next);
      if (isPlaying) setClock(session, next);
    },
    play: () => {
      setPlaying(true);
      setClock(session, rate);
    },
    pause: () => {
      session.playTo(clock.current.nowMs(performance.now()));
      setPlaying(false);
      keep(appId, session.played());
    },
    undo: () => {
      const before = session.canUndo ? undefined : left.current.pop();
      if (!before) session.undo();
      open(before ?? session);
    },
    begin: (testClock) => {
      left.current.push(session);
      open(begun(project, testClock));
    },
  };
}

const begun = (project: Project, testClock?: string): Session =>
  new Session(project, { startMs: Date.now(), ...(testClock !== undefined && { testClock }), acts: [] });

/** What was played with another catalogue than this one may not be playable any more. */
function resumed(project: Project): Session | undefined {
  const played = readKept(project.intent.app.id);
  try {
    return played && new Session(project, played);
  } catch {
    return undefined;
  }
}
