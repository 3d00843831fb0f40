/**
 * The report as one self-contained page. Nothing is loaded from anywhere: styles and the one script are
 * allowed by their hashes (Content Security Policy Level 3, section 2.3.1), fonts and crops are data URIs.
 */
import { formatRatio } from '../../areas/contrast/colour.ts';
import { formatBuild } from '../../model/candidate.ts';
import type { ItemOutcome, Judgement, ThemePair, VariantMatrix } from '../../model/judgement.ts';
import { type Outcome, worstFirst } from '../../model/outcome.ts';
import { withoutControls } from '../escape.ts';
import { outcomeMark, outcomeWord } from '../outcome-words.ts';
import {
  type AreaOutline,
  areaTitle,
  type CardOutline,
  formatNotes,
  formatVerdict,
  nextSteps,
  outlineAreas,
  ownReason,
} from '../outline.ts';
import { type CoverageParts, coverageSection } from './coverage.ts';
import { findingCard } from './finding-card.ts';
import { hashSource, html, type Markup, markupOf } from './markup.ts';
import type { Proof } from './proof.ts';
import { script } from './script.ts';
import { css } from './style.ts';

interface PageParts extends Partial<CoverageParts> {
  /** By finding id; a finding without pictures has none. */
  proofs: ReadonlyMap<string, Proof>;
  /** `@font-face` rules with data URIs. */
  fontCss: string;
}

export function htmlReport(
  judgement: Judgement,
  { evidenceHref = new Map(), fontCss, maps = [], proofs }: PageParts,
): string {
  const style = fontCss + css;
  const areas = outlineAreas(judgement);
  const { candidate, verdict } = judgement;
  const tone = ({ blocked: 'failed', open: 'cantTell', clear: 'passed' } as const)[verdict];
  const page = html`<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src '${hashSource(style)}'; script-src '${hashSource(script)}'; img-src data:; font-src data:; base-uri 'none'; form-action 'none'">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${candidate.name} ${candidate.build.version}: ${verdict}</title>
<style>${markupOf(style)}</style>
</head>
<body>
<header class="top">
<h1><b>${candidate.name}</b> ${formatBuild(candidate.build)}</h1>
<p class="verdict ${tone}"><span class="mark" aria-hidden="true">${outcomeMark[tone]}</span>${formatVerdict(judgement)}</p>
<ul class="counts" aria-label="Items by outcome">${worstFirst.map((outcome) => html`<li class="${outcome}"><span aria-hidden="true">${outcomeMark[outcome]}</span> <b>${judgement.counts[outcome]}</b> ${outcomeWord[outcome]}</li>`)}</ul>
</header>
<main>
${nextSection(judgement)}
${coverageSection(judgement, { evidenceHref, maps })}
${themePairSection(judgement)}
${variantSection(judgement)}
${filters(areas)}
${areas.map((area) => areaSection(area, proofs, judgement.strict))}
${notesSection(judgement)}
</main>
<footer>Judged ${judgement.judgedAt.slice(0, 16).replace('T', ' ')} UTC by the list ${judgement.checklist}${judgement.strict ? ', strictly' : ''}. An empty cell is untested, never passed.</footer>
<script>${markupOf(script)}</script>
</body>
</html>
`;
  return withoutControls(String(page));
}

function nextSection(judgement: Judgement): Markup | undefined {
  const steps = nextSteps(judgement).map(
    ({ outcome, words, finding, command }) =>
      html`<li><span class="${outcome}" aria-label="${outcomeWord[outcome]}">${outcomeMark[outcome]}</span> ${words}${finding && html` <a href="#finding-${finding}">See ${finding}</a>`}${command && html`<br><code>${command}</code>`}</li>`,
  );
  return steps.length > 0
    ? html`<section class="sheet next"><h2>Do next</h2><ol>${steps}</ol></section>`
    : undefined;
}

function filters(areas: readonly AreaOutline[]): Markup {
  const outcomes: readonly Outcome[] = worstFirst;
  return html`<div class="filters" hidden>
<fieldset><legend>Show only</legend>${outcomes.map((outcome) => html`<button type="button" aria-pressed="false" data-outcome="${outcome}"><span class="${outcome}" aria-hidden="true">${outcomeMark[outcome]}</span> ${outcomeWord[outcome]}</button>`)}</fieldset>
<label>Area <select id="area"><option value="">all</option>${areas.map(({ area }) => html`<option value="${area}">${areaTitle[area]}</option>`)}</select></label>
<span id="shown" role="status"></span>
</div>`;
}

function areaSection(outline: AreaOutline, proofs: PageParts['proofs'], strict: boolean): Markup {
  const { area, counts, items, note } = outline;
  const summary = counts.map(
    ({ outcome, count }) =>
      html`<li class="${outcome}"><span aria-hidden="true">${outcomeMark[outcome]}</span> ${count} ${outcomeWord[outcome]}</li>`,
  );
  return html`<section class="area" data-area="${area}" id="area-${area}">
<header><h2>${areaTitle[area]}</h2><ul>${summary}</ul></header>
${note && html`<p class="note">${note}</p>`}
${items.map(({ cards, item }) => itemRow({ ...item, why: ownReason(item, outline) }, cards, proofs, strict))}
</section>`;
}

function itemRow(
  item: ItemOutcome,
  cards: readonly CardOutline[],
  proofs: PageParts['proofs'],
  strict: boolean,
): Markup {
  return html`<div class="item" data-outcome="${item.outcome}" id="item-${item.id}">
<div class="head"><div class="state ${item.outcome}"><span aria-hidden="true">${outcomeMark[item.outcome]}</span> ${outcomeWord[item.outcome]}</div>
<div class="says"><p>${item.shows}</p><p class="note">${item.why} <code>${item.id}</code>, ${item.level}</p></div></div>
${cards.map((card) => findingCard(card, proofs, strict))}
</div>`;
}

/** Pictures down, devices across: which form each device gets, and how far it is scaled up. */
function variantSection({ variants: { devices, rows } }: Judgement): Markup | undefined {
  if (rows.length === 0) return undefined;
  const cell = ({ scale, variant, where }: VariantMatrix['rows'][number]['cells'][number]) => {
    const outcome: Outcome = variant === 'none' ? 'failed' : (scale ?? 1) > 1 ? 'cantTell' : 'passed';
    const size = scale === undefined ? '' : scale === 1 ? ' as it is' : ` × ${scale.toFixed(2)}`;
    const words = `${outcomeWord[outcome]}: ${variant}${size}${where ? ` in ${where}` : ''}`;
    return html`<td class="${outcome}" aria-label="${words}"><span aria-hidden="true">${outcomeMark[outcome]}</span>${size}<br><small>${variant}${where ? ` · ${where}` : ''}</small></td>`;
  };
  return html`<section class="sheet variants"><h2>Pictures by device</h2><p>What each device gets of the resources with a finding, the worst of all languages and themes: how far it is scaled, and which form it is. Above × 1 it is blurred.</p>
<div class="scroll"><table>
<thead><tr><th scope="col">Resource</th>${devices.map(({ densityDpi, name }) => html`<th scope="col">${name}<br><small>${densityDpi} dpi</small></th>`)}</tr></thead>
<tbody>${rows.map(({ cells, resource }) => html`<tr><th scope="row">${resource}</th>${cells.map(cell)}</tr>`)}</tbody>
</table></div></section>`;
}

/** Light and dark side by side, one fold a screen. */
function themePairSection({ themePairs }: Judgement): Markup | undefined {
  if (themePairs.length === 0) return undefined;
  const side = (of: ThemePair['rows'][number]['light']) => {
    if (!of) return html`<td class="untested">${outcomeMark.untested} not captured</td>`;
    const ratio = of.ratio === undefined ? 'not seen' : `${formatRatio(of.ratio)}\u00a0:\u00a01`;
    const body = html`<span aria-hidden="true">${outcomeMark[of.outcome]}</span> ${ratio}`;
    const words = `${outcomeWord[of.outcome]}, ${ratio}`;
    const colours = of.foreground
      ? html` <svg viewBox="0 0 28 16" aria-hidden="true"><rect width="28" height="16" fill="${of.background!}"/><circle cx="14" cy="8" r="5" fill="${of.foreground}"/></svg>`
      : undefined;
    return of.finding
      ? html`<td><a class="${of.outcome}" href="#finding-${of.finding}" aria-label="${words}">${body}</a>${colours}</td>`
      : html`<td class="${of.outcome}" aria-label="${words}">${body}${colours}</td>`;
  };
  const fold = ({ more, rows, screen }: ThemePair) => {
    const count = (outcome: Outcome) =>
      rows.filter(({ dark, light }) => light?.outcome === outcome || dark?.outcome === outcome).length;
    const [failed, open] = [count('failed'), count('cantTell')];
    const said = [
      `${rows.length + more} texts`,
      ...(failed > 0 ? [`${outcomeMark.failed} ${failed} too faint`] : []),
      ...(open > 0 ? [`${outcomeMark.cantTell} ${open} undecided`] : []),
    ].join(', ');
    const lines = rows.map(
      (row) =>
        html`<tr><th scope="row"><span dir="auto">${row.shown || row.subject}</span></th>${side(row.light)}${side(row.dark)}</tr>`,
    );
    const rest = more > 0 ? html`<p>and ${more} more, which stand out better</p>` : undefined;
    return html`<details><summary><b>${screen}</b> ${said}</summary>
<div class="scroll"><table>
<thead><tr><th scope="col">Text</th><th scope="col">light</th><th scope="col">dark</th></tr></thead>
<tbody>${lines}</tbody>
</table></div>${rest}</details>`;
  };
  const worstFold = (of: ThemePair) =>
    of.rows.filter(({ dark, light }) => light?.outcome === 'failed' || dark?.outcome === 'failed').length;
  const worstFirstFolds = [...themePairs].sort((a, b) => worstFold(b) - worstFold(a));
  return html`<section class="sheet theme-pairs"><h2>Light and dark, text by text</h2><p>Contrast of each screen's texts in both themes, in the source language, the worst first.</p>
${worstFirstFolds.map(fold)}</section>`;
}

function notesSection(judgement: Judgement): Markup | undefined {
  const notes = formatNotes(judgement);
  return notes.length > 0
    ? html`<section class="sheet"><h2>Notes</h2><ul>${notes.map((note) => html`<li>${note}</li>`)}</ul></section>`
    : undefined;
}
