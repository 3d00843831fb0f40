/** Two candidates as one self-contained page: each finding that changed with its pictures of before and now beside each other. */
import { formatBuild } from '../../model/candidate.ts';
import { type Change, type ComparedFinding, type Comparison, changes } from '../../model/comparison.ts';
import type { Outcome } from '../../model/outcome.ts';
import { changeWords, formatComparison } from '../comparison-view.ts';
import { withoutControls } from '../escape.ts';
import { outcomeMark, outcomeWord } from '../outcome-words.ts';
import { svgPicture } from './finding-card.ts';
import { hashSource, html, type Markup, markupOf } from './markup.ts';
import type { Proof } from './proof.ts';
import { css } from './style.ts';

/** The same place in both candidates, by the name that a finding has in the later one, else in the earlier. */
export type ProofPairs = ReadonlyMap<string, { before?: Proof; after?: Proof }>;

/** Changes that are shown one by one, with their pictures; of the others there is one line each. */
export const picturedChanges: ReadonlySet<Change> = new Set([
  'new',
  'worse',
  'undecided',
  'first-look',
  'other-limit',
  'moved',
  'better',
  'fixed',
]);

export function comparisonPage(
  comparison: Comparison,
  { fontCss, proofs }: { fontCss: string; proofs: ProofPairs },
): string {
  const style = fontCss + css;
  const { after, before, counts, findings, isWorse } = comparison;
  const tone = isWorse ? 'failed' : 'passed';
  const present = changes.filter((change) => counts[change]);
  const page = html`<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src '${hashSource(style)}'; img-src data:; font-src data:; base-uri 'none'; form-action 'none'">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${after.name} ${after.build.version} held against ${before.build.version}</title>
<style>${markupOf(style)}</style>
</head>
<body>
<header class="top">
<h1><b>${after.name}</b> ${formatBuild(after.build)}, held against ${before.build.version} (${before.build.build})</h1>
<p class="verdict ${tone}"><span class="mark" aria-hidden="true">${outcomeMark[tone]}</span>${formatComparison(comparison)}</p>
<ul class="counts" aria-label="Findings by what became of them">${present.map((change) => {
    const { mark, title } = changeWords[change];
    return html`<li><a href="#${change}"><span class="${mark}" aria-hidden="true">${outcomeMark[mark]}</span> <b>${counts[change]!}</b> ${title}</a></li>`;
  })}</ul>
</header>
<main>
${present.map((change) =>
  section(
    change,
    findings.filter((one) => one.change === change),
    proofs,
  ),
)}
${itemsSection(comparison)}
${rulingsSection(comparison)}
${coverageSection(comparison)}
</main>
<footer>Judged ${before.judgedAt.slice(0, 16).replace('T', ' ')} and ${after.judgedAt.slice(0, 16).replace('T', ' ')} UTC. A finding is called fixed, or new, only where both candidates were looked at.</footer>
</body>
</html>
`;
  return withoutControls(String(page));
}

function section(change: Change, findings: readonly ComparedFinding[], proofs: ProofPairs): Markup {
  const { mark, means, title } = changeWords[change];
  const body = picturedChanges.has(change)
    ? findings.map((one) => card(one, proofs))
    : html`<details><summary>${findings.length} ${findings.length === 1 ? 'finding' : 'findings'}</summary><ul class="lines">${findings.map(line)}</ul></details>`;
  return html`<section class="change" id="${change}">
<h2><span class="${mark}" aria-hidden="true">${outcomeMark[mark]}</span> ${title} <b>${findings.length}</b></h2>
${means && html`<p>${means}</p>`}
${body}
</section>`;
}

const nameOf = ({ after, before }: ComparedFinding): string => (after ?? before)!.id;

const line = (one: ComparedFinding): Markup =>
  html`<li>${one.what} <code>${nameOf(one)}</code>, ${one.where}${one.why && html`: ${one.why}`}</li>`;

function card(one: ComparedFinding, proofs: ProofPairs): Markup {
  const { after, before, what, where, why } = one;
  const outcome: Outcome = after?.outcome ?? 'passed';
  const pair = proofs.get(nameOf(one));
  const rows: [string, string][] = [
    ['where', where],
    ...(before ? [['before', before.measured] as [string, string]] : []),
    ...(after
      ? ([
          ['now', after.measured],
          ['required', after.required],
          ['do', after.remedy],
        ] as [string, string][])
      : []),
    ...(why ? [['because', why] as [string, string]] : []),
  ];
  const renamed = before && after && before.id !== after.id;
  return html`<article class="finding ${outcome}${pair ? '' : ' no-picture'}" id="finding-${nameOf(one)}">
${pair && html`<div class="sides">${side('before', pair.before)}${side('now', pair.after)}</div>`}
<div>
<h3><span class="${outcome}">${outcomeMark[outcome]} ${after ? outcomeWord[outcome] : 'gone'}</span> · ${what} <code class="name">${nameOf(one)}${renamed ? `, was ${before.id}` : ''}</code></h3>
<dl>${rows.map(([name, text]) => html`<dt>${name}</dt><dd dir="auto">${text}</dd>`)}</dl>
</div>
</article>`;
}

const side = (name: string, proof: Proof | undefined): Markup =>
  html`<figure><figcaption>${name}</figcaption>${proof ? picture(name, proof) : html`<div class="none">no picture of it</div>`}</figure>`;

/** Of a candidate that was kept the whole one is not there. */
const picture = (name: string, { crop, pictureHref }: Proof): Markup =>
  pictureHref
    ? html`<a href="${pictureHref}" aria-label="Whole screenshot, ${name}">${svgPicture(crop, 2)}</a>`
    : svgPicture(crop, 2);

function itemsSection({ items }: Comparison): Markup | undefined {
  if (items.length === 0) return undefined;
  const say = (outcome: Outcome | undefined) =>
    outcome
      ? html`<span class="${outcome}">${outcomeMark[outcome]} ${outcomeWord[outcome]}</span>`
      : html`not on the list`;
  return html`<section class="sheet"><h2>Items that came out otherwise</h2>
<div class="scroll"><table><thead><tr><th scope="col">Item</th><th scope="col">before</th><th scope="col">now</th></tr></thead>
<tbody>${items.map(({ after, before, id, shows }) => html`<tr><th scope="row">${shows} <code>${id}</code></th><td>${say(before)}</td><td>${say(after)}</td></tr>`)}</tbody></table></div></section>`;
}

function rulingsSection({
  rulings: { carried, lapsed, notNeeded },
  signOffsToRenew,
}: Comparison): Markup | undefined {
  const lines = [
    ...carried.map(({ about, by, ruling }) => html`<li>${about}: ${ruling} by ${by}, holds on</li>`),
    ...lapsed.map(
      ({ about, because, by, now, ruling }) =>
        html`<li>${about}: ${ruling} by ${by}, lapsed: ${because}${now && html`. It is perhaps <code>${now}</code> now`}</li>`,
    ),
    ...notNeeded.map(
      ({ about, by, ruling }) => html`<li>${about}: ${ruling} by ${by}, is needed no more</li>`,
    ),
    ...signOffsToRenew.map(
      ({ because, by, item }) => html`<li>${item}: signed by ${by}, to be signed again: ${because}</li>`,
    ),
  ];
  return lines.length > 0
    ? html`<section class="sheet"><h2>Rulings and sign-offs</h2><ul>${lines}</ul></section>`
    : undefined;
}

function coverageSection({ coverage: { gained, lost } }: Comparison): Markup | undefined {
  const list = (title: string, places: readonly string[]) =>
    places.length > 0
      ? html`<details><summary>${title}: ${places.length}</summary><ul class="lines">${places.map((place) => html`<li>${place}</li>`)}</ul></details>`
      : undefined;
  return gained.length + lost.length > 0
    ? html`<section class="sheet"><h2>What was looked at</h2>${list('Before, and not in this candidate', lost)}${list('In this candidate alone', gained)}</section>`
    : undefined;
}
