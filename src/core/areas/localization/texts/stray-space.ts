import type { Check } from '../../check.ts';
import { translations } from './catalogue.ts';
import { departure, textDraft } from './text-draft.ts';

/** A translation begins and ends as its source does, and has no doubled blanks. */
export const straySpace = {
  id: 'stray-space',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
  *run(facts, intent) {
    let passed = 0;
    for (const { from, locale, text } of facts.once(translations, intent)) {
      const fault = faultOf(text.text, from.text);
      if (!fault) passed += 1;
      else
        yield departure(
          textDraft(text, { locale, severity: fault === 'lost' ? 2 : 1, digest: fault, data: { fault } }),
        );
    }
    yield { outcome: 'passed', count: passed };
  },
} satisfies Check;

type Fault = 'leading' | 'trailing' | 'doubled' | 'lost';

// Languages that write no blanks between words need none at an edge either.
const NO_BLANKS =
  /[\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}\p{sc=Thai}\p{sc=Lao}\p{sc=Khmer}\p{sc=Myanmar}]/u;

function faultOf(text: string, source: string): Fault | undefined {
  // signs between other texts stand apart as a language has it
  if (!/\p{L}/u.test(text)) return undefined;
  const [before, after] = edges(text);
  const [wantedBefore, wantedAfter] = edges(source);
  if (before && !wantedBefore) return 'leading';
  if (after && !wantedAfter) return 'trailing';
  if (((wantedBefore && !before) || (wantedAfter && !after)) && !NO_BLANKS.test(text)) return 'lost';
  return text.includes('  ') && !source.includes('  ') ? 'doubled' : undefined;
}

const BLANK = new Set([' ', '\t', '\n', '\u00a0', '\u3000']);
const edges = (text: string): [boolean, boolean] => [BLANK.has(text[0] ?? ''), BLANK.has(text.at(-1) ?? '')];
