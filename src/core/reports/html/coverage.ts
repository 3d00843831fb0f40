/** What was covered: screens by captures, drills by screens, and the map of a walk. */
import type { CoverageCell, Judgement, OutcomeTable, TableCell } from '../../model/judgement.ts';
import { outcomeMark, outcomeWord } from '../outcome-words.ts';
import { html, type Markup, markupOf } from './markup.ts';

export interface CoverageParts {
  /** Relative address of a piece of evidence beside the page, by its digest. */
  evidenceHref: ReadonlyMap<string, string>;
  /** SVG of each roam, as `roamSvg` makes it. */
  maps: readonly string[];
}

export const coverageSection = (judgement: Judgement, parts: CoverageParts): Markup =>
  html`${[
    capturesTable(judgement, parts),
    drillsTable(judgement, parts),
    outcomeSection(
      'Links',
      'What the app promises to open: in the package, with its sites, and on a device.',
      judgement.routes,
    ),
    outcomeSection(
      'Push messages',
      'What the app sends: as a payload, in each state of the app, tapped, and its buttons.',
      judgement.messages,
    ),
    outcomeSection(
      'Purchases',
      'What the app sells, in every situation that a purchase must be seen in before a release.',
      judgement.purchases,
    ),
    outcomeSection(
      'Ads',
      'Each placement with each network that is asked for it: what it needs, and whether that is there.',
      judgement.ads,
    ),
    mapSection(parts),
  ]}`;

/** Screens down, what they were captured under across. */
function capturesTable({ coverage }: Judgement, parts: CoverageParts): Markup | undefined {
  if (coverage.length === 0) return undefined;
  const columnOf = ({ cell }: CoverageCell) =>
    [
      cell.locale,
      cell.theme,
      cell.textScale === 1 ? '' : `${cell.textScale * 100} %`,
      cell.orientation === 'portrait' ? '' : cell.orientation,
      cell.procedure === 'as-is' ? '' : cell.procedure,
    ]
      .filter(Boolean)
      .join(' · ');
  const planned = coverage.filter((found) => found.planned);
  const seen = coverage.filter(({ outcome }) => outcome !== 'untested');
  const captured = seen.filter((found) => found.planned).length;
  const besides = seen.length - captured;
  const intro = html`${captured} of ${planned.length} planned captures were looked at${besides > 0 ? `, and ${besides} besides` : ''}. The number is that of findings in a cell.`;
  const list = reasonsOf(coverage, (found) => `${found.cell.screen}, ${columnOf(found)}`);
  return section('Coverage', intro, 'Screen', coverage, ({ cell }) => cell.screen, columnOf, parts, list);
}

/** Drills down, screens across. */
function drillsTable({ drills }: Judgement, parts: CoverageParts): Markup | undefined {
  if (drills.length === 0) return undefined;
  const proven = drills.filter(({ outcome }) => outcome !== 'untested').length;
  const intro = html`${proven} of ${drills.length} drills on screens prove something.${proven === 0 ? html` Run them with <code>fenlok drill</code>.` : ''}`;
  const list = reasonsOf(drills, ({ cell }) => `${cell.procedure} on ${cell.screen}`);
  return section(
    'Drills',
    intro,
    'Drill',
    drills,
    ({ cell }) => cell.procedure,
    ({ cell }) => cell.screen,
    parts,
    list,
  );
}

/** Why nothing can be said of some cells; each reason once, with the first of them. */
function reasonsOf(
  cells: readonly CoverageCell[],
  nameOf: (cell: CoverageCell) => string,
): Markup | undefined {
  const open = cells.filter(({ outcome, why }) => outcome === 'untested' && why);
  const reasons = [...new Map(open.map((cell) => [cell.why!, cell])).values()].map(
    (cell) => html`<li><b>${nameOf(cell)}</b> ${cell.why!}</li>`,
  );
  return reasons.length > 0 ? html`<ul>${reasons}</ul>` : undefined;
}

function section(
  title: string,
  intro: Markup,
  corner: string,
  cells: readonly CoverageCell[],
  rowOf: (cell: CoverageCell) => string,
  columnOf: (cell: CoverageCell) => string,
  parts: CoverageParts,
  after?: Markup,
): Markup {
  const columns = [...new Set(cells.map(columnOf))];
  const rows = [...new Set(cells.map(rowOf))];
  const at = new Map(cells.map((cell) => [`${rowOf(cell)}|${columnOf(cell)}`, cell]));
  const line = (row: string) => columns.map((column) => cellOf(at.get(`${row}|${column}`), parts));
  return html`<section class="sheet" id="${title.toLowerCase()}"><h2>${title}</h2><p>${intro}</p>
<div class="scroll"><table>
<thead><tr><th scope="col">${corner}</th>${columns.map((column) => html`<th scope="col">${column}</th>`)}</tr></thead>
<tbody>${rows.map((row) => html`<tr><th scope="row">${row}</th>${line(row)}</tr>`)}</tbody>
</table></div>${after}</section>`;
}

/** Leads to the worst finding, or else to what was seen. */
function cellOf(
  found: Pick<CoverageCell, 'evidence' | 'findings' | 'outcome' | 'why'> | undefined,
  { evidenceHref }: Pick<CoverageParts, 'evidenceHref'>,
): Markup {
  if (!found) return html`<td></td>`;
  const { evidence, findings, outcome, why } = found;
  const words = `${outcomeWord[outcome]}${findings.length > 0 ? `, ${findings.length}` : ''}`;
  const body = html`<span aria-hidden="true">${outcomeMark[outcome]}</span> ${findings.length > 0 ? findings.length : ''}`;
  const seen = evidence.flatMap((digest) => evidenceHref.get(digest) ?? [])[0];
  const href = findings[0] ? `#finding-${findings[0]}` : seen;
  const title = why ? html` title="${why}"` : undefined;
  return href
    ? html`<td><a class="${outcome}" href="${href}" aria-label="${words}"${title}>${body}</a></td>`
    : html`<td class="${outcome}" aria-label="${words}"${title}>${body}</td>`;
}

/** Rows and columns as they come; a cell leads to its worst finding. */
function outcomeSection(title: string, intro: string, { columns, rows }: OutcomeTable): Markup | undefined {
  if (rows.length === 0) return undefined;
  const line = ({ cells, name, note }: OutcomeTable['rows'][number]) =>
    html`<tr><th scope="row"><code>${name}</code> <span class="note">${note}</span></th>${cells.map(tableCell)}</tr>`;
  return html`<section class="sheet" id="${title.toLowerCase().replaceAll(' ', '-')}"><h2>${title}</h2><p>${intro}</p>${rowFilter(rows.length)}
<div class="scroll"><table>
<thead><tr><th scope="col"></th>${columns.map((column) => html`<th scope="col">${column}</th>`)}</tr></thead>
<tbody>${rows.map(line)}</tbody>
</table></div>${reasonList({ columns, rows })}</section>`;
}

const FEW_ROWS = 3;

/** Shown by the page's script. */
const rowFilter = (rows: number): Markup | undefined =>
  rows > FEW_ROWS
    ? html`<p class="row-filter" hidden><label>Rows with <input type="search"></label></p>`
    : undefined;

/** Why nothing can be said of a cell; what several have in common is said once. */
function reasonList({ columns, rows }: OutcomeTable): Markup | undefined {
  const reasons = new Map<string, string[]>();
  for (const { cells, name } of rows)
    for (const [i, { why }] of cells.entries())
      if (why) reasons.set(why, [...(reasons.get(why) ?? []), `${name} ${columns[i]}`]);
  const items = [...reasons].map(
    ([why, [place, ...more]]) =>
      html`<li><b>${place!}${more.length > 0 ? ` and ${more.length} more` : ''}</b> ${why}</li>`,
  );
  return items.length > 0 ? html`<ul>${items}</ul>` : undefined;
}

function tableCell({ findings, outcome, why }: TableCell): Markup {
  return cellOf({ findings, outcome, why, evidence: [] }, { evidenceHref: new Map() });
}

const mapSection = ({ maps }: CoverageParts): Markup[] =>
  maps.map(
    (svg) =>
      html`<section class="sheet roam"><h2>What a walk of its own found</h2><div class="scroll">${markupOf(svg)}</div></section>`,
  );
