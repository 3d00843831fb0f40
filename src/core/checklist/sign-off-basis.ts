import type { FactIndex } from '../areas/check.ts';
import type { BuildKey } from '../model/candidate.ts';
import type { SignOffBasis } from '../model/ruling.ts';
import { findingDigest } from './finding-id.ts';

/**
 * The digest of what a sign-off rests on: all texts of the app, all that its captured screens hold in each language, or its code.
 * Undefined where there is no evidence of it.
 */
export function signOffDigest(what: SignOffBasis, facts: FactIndex, build: BuildKey): string | undefined {
  if (what === 'code') return build.code;
  const lines = what === 'texts' ? textsIn(facts) : screensIn(facts);
  return lines.length > 0 ? findingDigest(lines) : undefined;
}

const textsIn = (facts: FactIndex): string[] =>
  facts
    .of('catalogue-text')
    .map(({ catalogue, form = '', key, locale, text }) =>
      JSON.stringify([catalogue, key, locale, form, text]),
    );

/** As they open, in the ordinary text size: other settings show the same again. */
const screensIn = (facts: FactIndex): string[] =>
  facts
    .of('screen-text')
    .filter(({ cell, isField }) => cell.procedure === 'as-is' && cell.textScale === 1 && !isField)
    .map(({ cell, element, text }) => JSON.stringify([cell.screen, cell.locale, element.key, text]));
