/**
 * Without its usage description the system ends the app at the first use of the data that it guards; with an empty one
 * the store refuses it (Apple, *Requesting access to protected resources*). That the executable names a class does not
 * prove that it calls it, so a missing one is an estimate; that the app tracks, its privacy manifest says itself.
 */

import { z } from 'zod';
import type { UsageDescriptionFact } from '../../../model/fact.ts';
import type { Assertion, Draft, IntentWith } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';

const dataSchema = z.strictObject({
  key: z.string(),
  flaw: z.enum(['missing', 'empty', 'untold-tracking', 'not-translated']),
  missing: z.array(z.string()),
  importedClasses: z.array(z.string()),
  text: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const usageDescription = defineCheck({
  id: 'usage-description',
  area: 'quality',
  priority: 'harder',
  standard: 'Apple, Requesting access to protected resources',
  basis: 'either',
  needs: 'package',
  reads: ['usage-description'],
  data: dataSchema,
  words: ({ flaw, importedClasses, key, missing, text }) => {
    const classes = importedClasses.join(', ');
    switch (flaw) {
      case 'missing':
        return {
          what: `${key} is missing`,
          measured: `the executable names ${classes}`,
          required: `a text under ${key} in Info.plist`,
          why: 'The system ends the app when it asks for this without a text. Naming a class does not prove that it is called, so a person must look.',
          remedy: `Say in ${key} what the data is for, or leave the class out of the build.`,
        };
      case 'untold-tracking':
        return {
          what: 'The privacy manifest says that the app tracks, and nothing asks the user',
          measured: `NSPrivacyTracking is true, and Info.plist has no ${key}`,
          required: `a text under ${key}`,
          why: 'Without the text the system cannot ask, so tracking stays forbidden; the store refuses apps that declare it and do not ask.',
          remedy: `Say in ${key} what the tracking is for, or set NSPrivacyTracking to false if the app does not track.`,
        };
      case 'empty':
        return {
          what: `${key} is empty`,
          measured: 'no text',
          required: 'a sentence that says what the data is for',
          why: 'The user is asked without being told why, and the store refuses it.',
          remedy: `Write the sentence under ${key}.`,
        };
      default:
        return {
          what: `${key} is not translated into ${missing.join(', ')}`,
          measured: `the user reads ${quote(text)}`,
          required: 'a text in every language that ships',
          why: 'The system shows it at the moment when the user decides; in a foreign language the answer is no.',
          remedy: `Add ${key} to InfoPlist.strings of these languages.`,
        };
    }
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
    for (const fact of facts.of('usage-description')) yield judgeUsage(fact, intent);
  },

  doc: {
    looksAt: 'Usage descriptions, and classes that need one and that the executable names',
    against: 'A text, in every intended language. A missing one is estimated',
    matters: 'Without a text the system ends the app when it asks; with an empty one the store refuses it.',
    measured:
      'The usage descriptions of Info.plist and of each language, against the classes that the executable names.',
    errs: 'Naming a class does not prove that it is called, so a missing description is estimated.',
    fixes: [
      {
        where: 'Info.plist',
        language: 'xml',
        code: '<key>NSCameraUsageDescription</key><string>To scan the code on a ticket.</string>',
      },
    ],
  },
});

function judgeUsage(fact: UsageDescriptionFact, intent: IntentWith): Assertion<Data> {
  if (fact.text === undefined && fact.declaredInManifest)
    return { outcome: 'failed', draft: draftOf(fact, 'untold-tracking', []) };
  if (fact.text === undefined) return { outcome: 'cantTell', draft: draftOf(fact, 'missing', []) };
  if (fact.text.trim() === '') return { outcome: 'failed', draft: draftOf(fact, 'empty', []) };
  const missing = intent.locales.filter(
    (locale) => locale !== intent.sourceLocale && !fact.locales.includes(locale),
  );
  return missing.length > 0
    ? { outcome: 'failed', draft: draftOf(fact, 'not-translated', missing) }
    : { outcome: 'passed' };
}

const SEVERITY = { missing: 2, empty: 3, 'untold-tracking': 3, 'not-translated': 1 } as const;

const draftOf = (
  { evidence, importedClasses, key, text = '' }: UsageDescriptionFact,
  flaw: keyof typeof SEVERITY,
  missing: string[],
): Draft<Data> => ({
  identity: { subject: key },
  basis: flaw === 'missing' ? 'estimated' : 'measured',
  severity: SEVERITY[flaw],
  digest: `${flaw} ${missing.join(' ')} ${text}`,
  occurrence: { evidence, shown: key, data: { key, flaw, missing, importedClasses, text } },
});
