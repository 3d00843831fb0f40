import { outcomeOf } from '../../checklist/apply-rulings.ts';
import type { Finding } from '../../model/finding.ts';
import { outcomeMark, outcomeWord } from '../outcome-words.ts';
import { type CardOutline, formatOthers, formatPlaces } from '../outline.ts';
import { html, type Markup } from './markup.ts';
import type { Proof, ProofPicture } from './proof.ts';

/** One cause: its worst place's pictures left, the numbers, why and remedy right; the other places below. */
export function findingCard(card: CardOutline, proofs: ReadonlyMap<string, Proof>, strict: boolean): Markup {
  const [finding, ...others] = card;
  const proof = proofs.get(finding.id);
  const outcome = outcomeOf(finding, strict);
  const { words, ruling } = finding;
  const rows: [string, string][] = [
    ['where', formatPlaces(finding)],
    [finding.basis === 'measured' ? 'measured' : 'estimate', words.measured],
    ['required', words.required],
    ['why', words.why],
    ['do', words.remedy],
  ];
  return html`<article class="finding ${outcome}${proof ? '' : ' no-picture'}" id="finding-${finding.id}">
${proof && pictures(proof, finding)}
<div>
<h3><span class="${outcome}">${outcomeMark[outcome]} ${outcomeWord[outcome]}</span> · ${words.what} <code class="name">${finding.id}</code></h3>
<dl>${rows.map(([name, text]) => html`<dt>${name}</dt><dd>${unbroken(text)}</dd>`)}</dl>
${swatches(finding)}
${ruling && html`<p class="ruling">Ruled <b>${ruling.ruling}</b> by ${ruling.by}: ${ruling.why}</p>`}
</div>
${others.length > 0 ? otherPlaces(card, proofs) : undefined}
</article>`;
}

function otherPlaces(card: CardOutline, proofs: ReadonlyMap<string, Proof>): Markup {
  const [, ...others] = card;
  const words = formatOthers(card);
  const places = others.map(({ id }, i) => {
    const proof = proofs.get(id);
    return html`<li id="finding-${id}">${proof && html`<a href="${proof.pictureHref}">${svgPicture(proof.crop, 2)}</a>`}<span dir="auto">${words[i]!}</span></li>`;
  });
  const head = `${others.length} more ${others.length === 1 ? 'place' : 'places'} with the same cause`;
  return html`<details class="places"${others.length <= PLACES_OPEN ? ' open' : ''}><summary>${head}</summary><ul>${places}</ul></details>`;
}

// More are folded.
const PLACES_OPEN = 4;

/** A ratio stays on one line. */
const unbroken = (text: string): string => text.replace(/(\d) : (\d)/g, '$1\u00a0:\u00a0$2');

function pictures({ screen, crop, pictureHref }: Proof, { identity, occurrences }: Finding): Markup {
  const shown = occurrences[0]!.shown;
  return html`<div class="pictures">
<a href="${pictureHref}" aria-label="Whole screenshot of ${identity.screen}">${svgPicture(screen, 9)}</a>
<div>${svgPicture(crop, 2)}<p><a href="${pictureHref}">whole screenshot</a>${shown ? html` · <span dir="auto">${shown}</span>` : undefined}</p></div>
</div>`;
}

/** Drawn in screenshot pixels, so that the outline sits on the element at any size. */
export function svgPicture({ dataUri, elementPx, showsPx }: ProofPicture, strokePx: number): Markup {
  const { x, y, width, height } = showsPx;
  const grow = strokePx;
  const rect = (name: string, stroke: number) =>
    html`<rect class="${name}" x="${elementPx.x - grow}" y="${elementPx.y - grow}" width="${elementPx.width + 2 * grow}" height="${elementPx.height + 2 * grow}" rx="${strokePx * 2}" stroke-width="${stroke}"/>`;
  return html`<svg viewBox="${x} ${y} ${width} ${height}" role="img" aria-label="The element, outlined"><image href="${dataUri}" x="${x}" y="${y}" width="${width}" height="${height}"/>${rect('halo', strokePx * 2)}${rect('outline', strokePx)}</svg>`;
}

/** Measured and suggested colours side by side, each with its ratio. */
function swatches({ occurrences }: Finding): Markup | undefined {
  const {
    background,
    foreground,
    ratio,
    suggestedBackground,
    suggestedBackgroundRatio,
    suggestedText,
    suggestedTextRatio,
  } = occurrences[0]!.data;
  if (!foreground || !background) return undefined;
  const cut = (value: unknown) => (Math.floor(Number(value) * 100) / 100).toFixed(2);
  const all = [
    { label: 'measured', text: foreground, on: background, ratio },
    ...(suggestedText
      ? [{ label: `text ${suggestedText}`, text: suggestedText, on: background, ratio: suggestedTextRatio }]
      : []),
    ...(suggestedBackground
      ? [
          {
            label: `background ${suggestedBackground}`,
            text: foreground,
            on: suggestedBackground,
            ratio: suggestedBackgroundRatio,
          },
        ]
      : []),
  ];
  const one = (of: (typeof all)[number]) =>
    html`<li><svg viewBox="0 0 136 48" aria-hidden="true"><rect width="136" height="48" fill="${String(of.on)}"/><text x="68" y="30" text-anchor="middle" font-size="17" fill="${String(of.text)}">Sample text</text></svg><span class="value">${of.label}</span><span class="value">${cut(of.ratio)} : 1</span></li>`;
  return html`<ul class="swatches" aria-label="Colours">${all.map(one)}</ul>`;
}
