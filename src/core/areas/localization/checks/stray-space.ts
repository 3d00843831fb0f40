import { z } from 'zod';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { translations } from '../texts/catalogue.ts';
import { textDraft, textPlaceShape, toAssertion } from '../texts/text-draft.ts';
import { foundAt, keyForm } from '../words.ts';

const dataSchema = z.strictObject({
  ...textPlaceShape,
  fault: z.enum(['lost', 'leading', 'trailing', 'doubled']),
});

/** A translation begins and ends as its source does, and has no doubled blanks. */
export const straySpace = defineCheck({
  id: 'stray-space',
  area: 'localization',
  priority: 'harder',
  standard: "Fenlok's own rule",
  basis: 'measured',
  needs: 'package',
  reads: ['catalogue-text'],
  data: dataSchema,
  words: ({ fault, ...place }) => ({
    what: `${keyForm(place)} in ${place.locale} ${{ leading: 'begins with a blank', trailing: 'ends with a blank', doubled: 'has two blanks in a row', lost: 'has lost the blank at its edge' }[fault]}`,
    measured: `${quote(place.text.replaceAll(' ', '␣').replaceAll('\u00a0', '⍽').replaceAll('\n', '⏎'))}${foundAt(place)}`,
    required: 'the edges of the source',
    why:
      fault === 'lost'
        ? 'The source ends with a blank because something is joined to it: here the two run together.'
        : 'It shifts centred text, breaks comparisons, and shows as a gap.',
    remedy:
      fault === 'lost' ? 'Put the blank back, in quotes where the format needs it.' : 'Delete the blank.',
  }),

  *run(facts, intent) {
    let passed = 0;
    for (const { from, locale, text } of facts.once(translations, intent)) {
      const fault = faultOf(text.text, from.text);
      if (!fault) passed += 1;
      else
        yield toAssertion(
          textDraft(text, { locale, severity: fault === 'lost' ? 2 : 1, digest: fault, data: { fault } }),
        );
    }
    yield { outcome: 'passed', count: passed };
  },

  doc: {
    looksAt: 'Blanks at the edges and doubled ones',
    against: "The source's",
    matters:
      'It shifts centred text and breaks comparisons; a blank that is lost makes two words run together.',
    measured: 'Blanks at the edges and doubled ones, against the source.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'strings.xml',
        language: 'xml',
        code: '<string name="from">"Von "</string>  <!-- quotes keep the blank -->',
      },
    ],
  },
});

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
