import type { Finding } from 'fenlok';

interface Props {
  finding: Finding;
  number: number;
  open: boolean;
  onToggle(): void;
}

/** A finding in one line; opened, with its numbers, why and remedy. */
function FindingLine({ finding: { basis, occurrences, words }, number, onToggle, open }: Props) {
  const outcome = basis === 'measured' ? 'failed' : 'cantTell';
  const rows: [string, string][] = [
    [basis === 'measured' ? 'measured' : 'estimate', words.measured],
    ['required', words.required],
    ['why', words.why],
    ['do', words.remedy],
  ];
  return (
    <>
      <button type="button" aria-expanded={open} onClick={onToggle}>
        <span className="number">{number}</span>
        <span>
          <span className={outcome}>{outcome === 'failed' ? '▲ failed' : '◐ can’t tell'}</span> {words.what}
          {occurrences.length > 1 && <span className="origin"> in {occurrences.length} places</span>}
        </span>
      </button>
      {open && (
        <dl>
          {rows.map(([name, text]) => (
            <div key={name}>
              <dt>{name}</dt>
              <dd>{text}</dd>
            </div>
          ))}
        </dl>
      )}
    </>
  );
}

/** Findings one under the other, of which one may be open. */
export function FindingList({
  chosen,
  findings,
  onChoose,
}: {
  findings: readonly Finding[];
  chosen: string;
  onChoose(id: string): void;
}) {
  return (
    <ol className="lines">
      {findings.map((finding, i) => (
        <li key={finding.id}>
          <FindingLine
            finding={finding}
            number={i + 1}
            open={chosen === finding.id}
            onToggle={() => onChoose(chosen === finding.id ? '' : finding.id)}
          />
        </li>
      ))}
    </ol>
  );
}
