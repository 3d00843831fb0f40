import type { Finding, Outcome, OutcomeTable } from 'fenlok';
import type { ReactNode } from 'react';

const MARKS: Record<Outcome, [mark: string, word: string]> = {
  passed: ['■', 'passed'],
  failed: ['▲', 'failed'],
  cantTell: ['◐', 'can’t tell'],
  untested: ['□', 'untested'],
  inapplicable: ['–', 'not for this'],
};

interface Props {
  table: OutcomeTable;
  findings: readonly Finding[];
  /** Head of the rows. */
  corner: string;
  /** Many columns: marks alone, with their words under the table. */
  isNarrow?: boolean;
  at: readonly [row: number, column: number];
  onChoose(at: [row: number, column: number]): void;
  /** Told under the chosen cell. */
  children?: ReactNode;
}

/** A table of outcomes whose cells can be chosen; of the chosen one, what led to it. */
export function OutcomeTableView(props: Props) {
  const { at, children, corner, findings, isNarrow, onChoose, table } = props;
  const [atRow, atColumn] = at;
  const row = table.rows[atRow];
  const cell = row?.cells[atColumn];
  const detail = row && cell && (
    <div className="chosen">
      <p>
        <b>
          {row.name}, {table.columns[atColumn]}:
        </b>{' '}
        <Said outcome={cell.outcome} />
        {cell.why && <>. {cell.why}</>}
      </p>
      {findings
        .filter(({ id }) => cell.findings.includes(id))
        .map(({ basis, id, words }) => (
          <p key={id}>
            {words.what}. <b>{basis === 'measured' ? 'Measured:' : 'Estimated:'}</b> {words.measured}.{' '}
            <b>Do:</b> {words.remedy}
          </p>
        ))}
      {children}
    </div>
  );
  return (
    <>
      {isNarrow && detail}
      <div className="outcomes">
        <table className={isNarrow ? 'narrow' : ''}>
          <thead>
            <tr>
              <th scope="col">{corner}</th>
              {table.columns.map((column) => (
                <th key={column} scope="col">
                  <span>{column}</span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {table.rows.map(({ cells, name }, r) => (
              <tr key={name}>
                <th scope="row">{name}</th>
                {cells.map(({ outcome }, c) => {
                  const [mark, word] = MARKS[outcome];
                  const column = table.columns[c]!;
                  return (
                    <td key={column}>
                      {outcome === 'inapplicable' ? (
                        <span className="inapplicable" role="img" aria-label={word} data-mark={mark} />
                      ) : (
                        <button
                          type="button"
                          className={outcome}
                          aria-pressed={r === atRow && c === atColumn}
                          aria-label={`${word}: ${name}, ${column}`}
                          onClick={() => onChoose([r, c])}
                        >
                          {isNarrow ? mark : `${mark} ${word}`}
                        </button>
                      )}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {isNarrow && <Legend />}
      {!isNarrow && detail}
    </>
  );
}

const Said = ({ outcome }: { outcome: Outcome }) => (
  <span className={outcome}>
    {MARKS[outcome][0]} {MARKS[outcome][1]}
  </span>
);

const Legend = () => (
  <p className="marks">
    {(['passed', 'failed', 'untested', 'inapplicable'] as const).map((outcome) => (
      <Said key={outcome} outcome={outcome} />
    ))}
  </p>
);
