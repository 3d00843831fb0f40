/** Escapes that come out wrong: what the platform drops while it reads the file, and what is left over for the user to see. */
import type { CatalogueTextFact } from '../../../model/fact.ts';
import type { Intent } from '../../../model/intent.ts';
import type { Check, Draft, FactIndex } from '../../check.ts';
import { languageOf, sourceBeside, translationsBeside } from './catalogue.ts';
import { ownTexts } from './own-texts.ts';
import { departure, textDraft } from './text-draft.ts';

export const swallowedEscape = {
  id: 'swallowed-escape',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
  *run(facts, intent) {
    let passed = 0;
    for (const text of facts.once(ownTexts, intent)) {
      const draft =
        text.swallowed || text.escape
          ? judgeText(text, othersBeside(text, facts, intent), languageOf(text, intent))
          : undefined;
      if (draft) yield departure(draft);
      else passed += 1;
    }
    yield { outcome: 'passed', count: passed };
  },
} satisfies Check;

/** For a translation its source, for the source its translations. */
function othersBeside(text: CatalogueTextFact, facts: FactIndex, intent: Intent): CatalogueTextFact[] {
  const source = sourceBeside(text, facts, intent);
  return source.includes(text) ? translationsBeside(text, facts, intent) : source;
}

/** It stands alone, between blanks, quotes or brackets, as where people are told what to type. */
function isMention({ escape: written = '', text }: CatalogueTextFact): boolean {
  const at = text.indexOf(written);
  const [before = ' ', after = ' '] = [text[at - 1], text[at + written.length]];
  return written.startsWith('\\') && MENTION_EDGE.test(before) && MENTION_EDGE.test(after);
}

const MENTION_EDGE = /[\s"'`‘’“”«»„(),]/;

function judgeText(
  text: CatalogueTextFact,
  others: readonly CatalogueTextFact[],
  locale: string,
): Draft | undefined {
  if (text.swallowed)
    return textDraft(text, {
      locale,
      severity: 2,
      digest: `swallowed ${text.swallowed.join(' ')}`,
      data: { fault: 'swallowed', swallowed: text.swallowed },
    });
  // where it stands beside markup, or on both sides, the app resolves it itself
  if (text.tags || others.some((of) => of.escape)) return undefined;
  return textDraft(text, {
    locale,
    ...(isMention(text) && { basis: 'estimated' as const }),
    severity: 1,
    digest: `left ${text.escape}`,
    data: { fault: 'left-over', escape: text.escape! },
  });
}
