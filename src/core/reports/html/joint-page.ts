/** A release of both platforms as one self-contained page: items beside each other, and where the two are not alike. */
import { formatBuild } from '../../model/candidate.ts';
import type { JointDifference, JointJudgement } from '../../model/joint.ts';
import type { Outcome } from '../../model/outcome.ts';
import { worstFirst } from '../../model/outcome.ts';
import { withoutControls } from '../escape.ts';
import { differencesBy, formatJoint, worseOf } from '../joint-view.ts';
import { outcomeMark, outcomeWord } from '../outcome-words.ts';
import { hashSource, html, type Markup, markupOf } from './markup.ts';
import { css } from './style.ts';

interface JointPageOptions {
  fontCss: string;
  /** Where the report of each stands, seen from this page. */
  links: { android: string; ios: string };
}

const SHOWN = 8;
const TONE: Record<JointJudgement['verdict'], Outcome> = {
  blocked: 'failed',
  open: 'untested',
  clear: 'passed',
};

export function jointPage(joint: JointJudgement, { fontCss, links }: JointPageOptions): string {
  const style = fontCss + css + JOINT_CSS;
  const { android, differences, ios, verdict } = joint;
  const tone = TONE[verdict];
  const line = ({ finding, on, what }: JointDifference): Markup =>
    html`<li>${what}${finding && html` <a href="${links[on]}#finding-${finding}"><code>${finding}</code></a>`}</li>`;
  const groups = worstFirst.filter((outcome) => joint.items.some((item) => worseOf(item) === outcome));
  const page = html`<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src '${hashSource(style)}'; font-src data:; base-uri 'none'; form-action 'none'">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${android.name} on Android and iOS</title>
<style>${markupOf(style)}</style>
</head>
<body>
<header class="top">
<h1><b>${android.name}</b> on both platforms</h1>
<p class="verdict ${tone}"><span class="mark" aria-hidden="true">${outcomeMark[tone]}</span>${formatJoint(joint)}</p>
<p class="builds"><a href="${links.android}">Android</a> ${formatBuild(android.build)}<br><a href="${links.ios}">iOS</a> ${formatBuild(ios.build)}</p>
</header>
<main>
<div class="differences">${differencesBy(differences).map(
    ([title, own]) => html`<section>
<h2>${title} <b>${own.length}</b></h2>
<ul class="lines">${own.slice(0, SHOWN).map(line)}</ul>
${own.length > SHOWN ? html`<details><summary>${own.length - SHOWN} more</summary><ul class="lines">${own.slice(SHOWN).map(line)}</ul></details>` : ''}
</section>`,
  )}</div>
${groups.map((outcome) => group(outcome, joint))}
</main>
<footer>An item that does not apply to a platform says so. What is told to be on one alone fails there, and was looked at and passed on the other.</footer>
</body>
</html>
`;
  return withoutControls(String(page));
}

function group(outcome: Outcome, { items }: JointJudgement): Markup {
  const own = items.filter((item) => worseOf(item) === outcome);
  const side = (name: string, of: { outcome: Outcome; why: string }): Markup =>
    html`<td class="${of.outcome}" data-side="${name}" title="${of.why}"><span aria-hidden="true">${outcomeMark[of.outcome]}</span> ${outcomeWord[of.outcome]}</td>`;
  return html`<section class="joint">
<h2><span class="${outcome}" aria-hidden="true">${outcomeMark[outcome]}</span> ${TITLE[outcome]} <b>${own.length}</b></h2>
<table><thead><tr><th scope="col">Android</th><th scope="col">iOS</th><th scope="col">What it shows</th></tr></thead>
<tbody>${own.map(
    (item) =>
      html`<tr>${side('Android', item.android)}${side('iOS', item.ios)}<td>${item.shows} <code>${item.id}</code>${item.level === 'advisory' ? ' advisory' : ''}</td></tr>`,
  )}</tbody></table>
</section>`;
}

const TITLE: Readonly<Record<Outcome, string>> = {
  failed: 'Failed on at least one',
  cantTell: 'Waiting for a ruling',
  untested: 'Not looked at on at least one',
  passed: 'Passed',
  inapplicable: 'Applies to neither',
};

const JOINT_CSS = `
.builds { margin: .4rem 0 1rem }
.joint table { border-collapse: collapse; width: 100% }
.joint th { text-align: start; font-weight: 600; padding: .3rem .8rem .3rem 0; border-bottom: 1px solid var(--line) }
.joint td { padding: .35rem .8rem .35rem 0; vertical-align: top; text-align: start; white-space: normal; border-bottom: 1px solid var(--line) }
.joint td[data-side] { white-space: nowrap; width: 9.5rem }
.differences { display: grid; grid-template-columns: repeat(auto-fit, minmax(28rem, 1fr)); gap: 0 2rem }
.differences li { margin: .2rem 0 }
.differences code { white-space: nowrap }
`;
