import type { Finding, OutcomeTable } from 'fenlok';
import { useState } from 'react';
import { OutcomeTableView } from './outcome-table-view.tsx';

interface Props {
  /** Situations by products. */
  table: OutcomeTable;
  findings: readonly Finding[];
}

/** Products by situations, and of the chosen one how to bring it about, or what was found. */
export function SituationsPanel({ findings, table }: Props) {
  const [at, setAt] = useState<[row: number, column: number]>([0, 0]);
  const cells = table.rows.flatMap((row) => row.cells).filter(({ outcome }) => outcome !== 'inapplicable');
  const seen = cells.filter(({ outcome }) => outcome !== 'untested').length;
  if (cells.length === 0) return <p className="note">The intent file names no products.</p>;
  return (
    <>
      <p className="tally">
        <b>
          {seen} of {cells.length}
        </b>{' '}
        situations were seen, {cells.filter(({ outcome }) => outcome === 'failed').length} of them failed.
        <progress value={seen} max={cells.length} aria-label="Situations that were seen" />
      </p>
      <OutcomeTableView
        table={turned(table)}
        findings={findings}
        corner="product"
        isNarrow
        at={at}
        onChoose={setAt}
      />
    </>
  );
}

/** Rows as columns. */
const turned = ({ columns, rows }: OutcomeTable): OutcomeTable => ({
  columns: rows.map(({ name }) => name),
  rows: columns.map((name, i) => ({ name, note: '', cells: rows.map(({ cells }) => cells[i]!) })),
});
