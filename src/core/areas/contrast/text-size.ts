/**
 * Text size from the height of its ink. Which glyphs a text holds tells how much of the em they span:
 * capitals, digits and ascenders reach about 0.73 em above the baseline, small letters 0.53, accents on
 * capitals 0.93; descenders 0.21 below. Type designs differ by about a tenth either way.
 */
const ABOVE = { accented: 0.93, tall: 0.73, small: 0.53 };
const BELOW = 0.21;
const DESIGN_SPREAD = 0.13;

const LATIN_LIKE = /^[\p{Script=Latin}\p{Script=Greek}\p{Script=Cyrillic}\p{N}\p{P}\p{S}\p{Z}\p{Cc}]*$/u;
const ACCENTED_CAPITAL =
  /[\u00c0-\u00d6\u00d8-\u00de\u0100\u0102\u0104\u0106\u010c\u0118\u0141\u0143\u0147\u015a\u0160\u0179\u017b\u017d]/u;
const TALL = /[\p{Lu}\p{N}bdfhijklt'"’()/$€£%&!?äöüåáéíóúćńśźżß]/u;
const DESCENDING = /[gjpqyçęą,;()/Q]/u;

/**
 * @param lineHeightsPx heights of the inked lines
 * @returns lowest and highest size in pixels
 */
export function estimateTextSize(text: string, lineHeightsPx: readonly number[]): [number, number] {
  const tallest = Math.max(0, ...lineHeightsPx);
  if (!LATIN_LIKE.test(text)) return [tallest / 1.35, tallest / 0.55];
  const above = ACCENTED_CAPITAL.test(text) ? ABOVE.accented : TALL.test(text) ? ABOVE.tall : ABOVE.small;
  const span = above + (DESCENDING.test(text) ? BELOW : 0);
  // on several lines no single one need hold both the highest and the lowest glyph
  const leastSpan = lineHeightsPx.length > 1 ? above : span;
  return [(tallest / span) * (1 - DESIGN_SPREAD), (tallest / leastSpan) * (1 + DESIGN_SPREAD)];
}
