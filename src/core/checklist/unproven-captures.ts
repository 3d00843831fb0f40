/**
 * Captures that were taken under a setting of which nothing said that it took. Where the picture does not show it either, they are
 * captures of nobody knows what: nothing is judged by them.
 */

import type { Cell } from '../model/cell.ts';
import type { CaptureFact, Fact } from '../model/fact.ts';

export interface ProvenFacts {
  facts: Fact[];
  unproven: (CaptureFact & { why: string })[];
}

/** @returns those without the captures that prove nothing, and these with the reason */
export function sortUnproven(all: Iterable<Fact>, sourceLocale: string): ProvenFacts {
  const facts = [...all];
  const captures = facts.filter((fact): fact is CaptureFact => fact.kind === 'capture');
  const open = captures.filter(({ unproven = [] }) => unproven.length > 0);
  if (open.length === 0) return { facts, unproven: [] };
  const seen = textsByCapture(facts);
  const unproven = open.flatMap((capture) => {
    const why = whyUnproven(capture, captures, seen, sourceLocale);
    return why === undefined ? [] : [{ ...capture, why }];
  });
  const left = new Set(unproven.map(({ evidence }) => evidence));
  return {
    facts: facts.filter((fact) => !('evidence' in fact && left.has(String(fact.evidence)))),
    unproven,
  };
}

const TELL = 'let the app print its line app.began (docs/ios.md)';

function whyUnproven(
  { cell, unproven = [], evidence }: CaptureFact,
  captures: readonly CaptureFact[],
  seen: ReadonlyMap<string, Texts>,
  sourceLocale: string,
): string | undefined {
  const own = seen.get(evidence);
  const shows = (of: Partial<Cell>, differ: (own: Texts, other: Texts) => boolean) =>
    captures.some((other) => {
      const texts = isSame(other.cell, { ...cell, ...of }) ? seen.get(other.evidence) : undefined;
      return own && texts && differ(own, texts);
    });
  if (unproven.includes('textScale') && cell.textScale !== 1 && !shows({ textScale: 1 }, hasOtherSize))
    return `Not proven: nothing shows that the text size took. The app tells none, and no text is larger or smaller than at 100 %; ${TELL}.`;
  if (
    unproven.includes('locale') &&
    cell.locale !== sourceLocale &&
    !shows({ locale: sourceLocale }, hasOtherWords)
  )
    return `Not proven: nothing shows that the language took. The app tells none, and every text is as in ${sourceLocale}; ${TELL}.`;
  return undefined;
}

/** By the keys of their elements. */
interface Texts {
  shown: Map<string, string>;
  glyphDp: Map<string, number>;
}

function textsByCapture(facts: readonly Fact[]): Map<string, Texts> {
  const found = new Map<string, Texts>();
  for (const fact of facts) {
    if (fact.kind !== 'screen-text' && fact.kind !== 'text-contrast') continue;
    const texts = found.get(fact.evidence) ?? { shown: new Map(), glyphDp: new Map() };
    found.set(fact.evidence, texts);
    if (fact.kind === 'screen-text') texts.shown.set(fact.element.key, fact.text);
    else if (!fact.unseen) texts.glyphDp.set(`${fact.element.key}|${fact.element.shown}`, fact.glyphDp);
  }
  return found;
}

// Glyphs are measured to a pixel or so.
const OTHER_SIZE = 1.08;

const hasOtherSize = (own: Texts, other: Texts): boolean =>
  [...own.glyphDp].some(([key, glyphDp]) => {
    const before = other.glyphDp.get(key) ?? glyphDp;
    return Math.max(glyphDp / before, before / glyphDp) >= OTHER_SIZE;
  });
const hasOtherWords = (own: Texts, other: Texts): boolean =>
  [...own.shown].some(([key, text]) => (other.shown.get(key) ?? text) !== text);

const isSame = (a: Cell, b: Cell): boolean =>
  (['screen', 'procedure', 'step', 'device', 'locale', 'theme', 'textScale', 'orientation'] as const).every(
    (key) => a[key] === b[key],
  );
