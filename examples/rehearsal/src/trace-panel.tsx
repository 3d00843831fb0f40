import { Button, FileButton } from '@mantine/core';
import type { TraceLine } from 'fenlok';
import { formatLine } from './say-line.ts';

const LINES_SHOWN = 300;

interface Props {
  lines: readonly TraceLine[];
  appId: string;
  onOpen(file: File): void;
}

/** All that was written down, the latest first; the way to take it along, and to look at another. */
export function TracePanel({ appId, lines, onOpen }: Props) {
  const latest = lines.slice(-LINES_SHOWN).reverse();
  return (
    <>
      <div className="keys">
        <Button disabled={lines.length === 0} onClick={() => save(lines)}>
          Save the trace
        </Button>
        <FileButton onChange={(file) => file && onOpen(file)} accept=".jsonl">
          {(props) => (
            <Button variant="outline" {...props}>
              Open a trace…
            </Button>
          )}
        </FileButton>
        <p className="note">
          A saved one: <code>fenlok add rehearsal.jsonl</code> and <code>fenlok judge</code>, in a dossier of{' '}
          {appId}.
        </p>
      </div>
      <ol className="log" reversed start={lines.length}>
        {latest.map((line, i) => (
          <li key={lines.length - i}>
            <time>{line.at.slice(0, 19).replace('T', ' ')}</time> <code>{line.kind}</code> {formatLine(line)}
          </li>
        ))}
      </ol>
      {lines.length > LINES_SHOWN && (
        <p className="note">{lines.length - LINES_SHOWN} earlier lines stand in the saved trace.</p>
      )}
    </>
  );
}

function save(lines: readonly TraceLine[]): void {
  const text = lines.map((line) => `${JSON.stringify(line)}\n`).join('');
  const url = URL.createObjectURL(new Blob([text], { type: 'application/jsonl' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = 'rehearsal.jsonl';
  link.click();
  URL.revokeObjectURL(url);
}
