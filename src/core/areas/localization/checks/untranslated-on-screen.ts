import { z } from 'zod';
import { type Assertion, defineCheck, elementDraft, type FactIndex, type IntentWith } from '../../check.ts';
import { quote } from '../../words.ts';
import { guessTexts } from '../screens/guess-languages.ts';
import { readTexts } from '../screens/screen-languages.ts';

const placeShape = { text: z.string(), locale: z.string(), source: z.string(), spoken: z.boolean() };
const dataSchema = z.union([
  z.strictObject({ ...placeShape, key: z.string() }),
  z.strictObject({ ...placeShape, why: z.enum(['other-letters', 'same-words']) }),
]);
type Data = z.infer<typeof dataSchema>;

/** On the screens of a language every text is in it, and none in the source language. */
export const untranslatedOnScreen = defineCheck({
  id: 'untranslated-on-screen',
  area: 'localization',
  priority: 'harder',
  standard: 'Android and Apple localization guides',
  basis: 'either',
  needs: 'capture',
  reads: ['screen-text', 'catalogue-text'],
  data: dataSchema,
  words: (data) => {
    const { locale, source, spoken, text } = data;
    const isSure = 'key' in data;
    return {
      what: `${quote(text)} ${isSure ? 'is' : 'seems to be'} ${spoken ? 'spoken' : 'shown'} in ${source} on a screen in ${locale}`,
      measured: isSure
        ? `identical to the ${source} text of ${data.key}`
        : data.why === 'other-letters'
          ? `no letter that ${locale} is written in`
          : `the same words on a screen in ${source}`,
      required: isSure ? `the text of ${data.key} in ${locale}` : `the text in ${locale}`,
      why: isSure
        ? 'It is made of the source text: the translation is missing, was not loaded, or the code holds a text of its own.'
        : 'It reads like words and not like a name. There is no catalogue to hold it against: add the package or its catalogues, and it is sure.',
      remedy: `Look the text up by its key at run time, in the language of the app, and check that ${locale} has it.`,
    };
  },

  *run(facts, intent) {
    if (facts.of('catalogue-text').length === 0) yield* guessed(facts, intent);
    for (const { fact, key, origin } of facts.once(readTexts, intent)) {
      if (origin === 'data') yield { outcome: 'inapplicable', cell: fact.cell };
      else if (origin !== 'source') yield { outcome: 'passed', cell: fact.cell };
      else
        yield {
          outcome: 'failed',
          cell: fact.cell,
          draft: elementDraft<Data>(fact, {
            basis: 'measured',
            severity: fact.from === 'text' ? 2 : 1,
            digest: `${key}: ${fact.text}`,
            cause: 'untranslated',
            aspect: fact.cell.locale,
            data: {
              key: key!,
              text: fact.text,
              locale: fact.cell.locale,
              source: intent.sourceLocale,
              spoken: fact.from === 'label',
            },
          }),
        };
    }
  },

  doc: {
    looksAt:
      'Every text of every capture, matched to the catalogue of its language with formats filled in, by nothing but the text',
    against:
      'No text of the source language. Estimated without a catalogue: by letters, and by what captures in the source language show',
    matters: 'People read the source language in the middle of their own.',
    measured: 'Every text of a capture, matched to the catalogue of its language by nothing but its words.',
    errs: 'Without a catalogue it is told by letters, and by what captures in the source language show, and estimated.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'val label = stringResource(R.string.stops_heading)  // read at run time, not kept in a constant',
      },
      { where: 'iOS', language: 'swift', code: 'let label = String(localized: "stops_heading")' },
    ],
  },
});

/** Without a catalogue none passes: only what stands out is told. */
function* guessed(facts: FactIndex<'screen-text'>, intent: IntentWith): Iterable<Assertion<Data>> {
  for (const { fact, why } of facts.once(guessTexts, intent)) {
    const { cell, from, text } = fact;
    if (!why) yield { outcome: 'untested', cell, missingEvidence: NO_CATALOGUE };
    else
      yield {
        outcome: 'cantTell',
        cell,
        draft: elementDraft<Data>(fact, {
          basis: 'estimated',
          severity: from === 'text' ? 2 : 1,
          digest: text,
          cause: why,
          aspect: cell.locale,
          data: { why, text, locale: cell.locale, source: intent.sourceLocale, spoken: from === 'label' },
        }),
      };
  }
}

const NO_CATALOGUE = 'the texts of their languages (add the package or its catalogues)';
