import { nameOrigin } from 'fenlok';
import type { BenchStop } from '../worker/bench-screen.ts';

/** What is said at a stop, in parts, and where the name comes from. */
export function StopLine({ stop, withOrigin = true }: { stop: BenchStop; withOrigin?: boolean }) {
  return (
    <span className="stop-line">
      {stop.name ? <b dir="auto">{stop.name}</b> : <b className="failed">▲ no name</b>}
      {stop.rest.map((part) => (
        <span key={part} className="part" dir="auto">
          {part}
        </span>
      ))}
      {withOrigin && stop.name && <span className="origin">{nameOrigin[stop.nameFrom]}</span>}
    </span>
  );
}

export const formatStop = (stop: BenchStop): string => [stop.name || 'no name', ...stop.rest].join(', ');
