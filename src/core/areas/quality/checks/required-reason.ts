/**
 * Code that asks for certain things must say why in the privacy manifest of its bundle, or the store takes no upload
 * (Apple, *Describing use of required reason API*). Told by what the code imports.
 */

import { z } from 'zod';
import type { RequiredReasonFact } from '../../../model/fact.ts';
import { REASON_CATEGORIES } from '../../../platform/apple/required-reasons.ts';
import type { Assertion, Draft } from '../../check.ts';
import { defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({
  category: z.string(),
  does: z.string(),
  flaw: z.enum(['unknown', 'none']),
  given: z.array(z.string()),
  known: z.array(z.string()),
  part: z.string(),
  symbols: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

export const requiredReason = defineCheck({
  id: 'required-reason',
  area: 'quality',
  priority: 'cannot-ship',
  standard: 'Apple, Describing use of required reason API',
  basis: 'either',
  needs: 'package',
  reads: ['required-reason'],
  data: dataSchema,
  words: ({ category, does, flaw, given, known, part, symbols }) => ({
    what:
      flaw === 'unknown'
        ? `${part || 'The app'} gives a reason that Apple's list does not have`
        : `${part || 'The app'} ${does}, and no privacy manifest says why`,
    measured:
      flaw === 'unknown'
        ? `${given.join(', ')} for NSPrivacyAccessedAPICategory${category}`
        : `its code calls ${symbols.join(', ')}`,
    required: `NSPrivacyAccessedAPICategory${category} with one of ${known.join(', ')}`,
    why: 'The store takes no upload whose code calls these without a reason.',
    remedy: part
      ? `Take a version of ${part} that brings its own privacy manifest, or ask its makers for one.`
      : 'Add the category and the reason that is true to PrivacyInfo.xcprivacy; where a library calls it, take a version that brings its own.',
  }),

  *run(facts): Iterable<Assertion<Data>> {
    for (const fact of facts.of('required-reason')) yield judgeReason(fact);
  },

  doc: {
    looksAt:
      'Calls that the code of the app and of each framework and extension imports, and the reasons in the privacy manifests of that bundle',
    against: "A reason of Apple's list for each category. One that the list does not have is estimated",
    matters: 'The store takes no upload whose code calls these without a reason.',
    measured:
      'The symbols that the code of the app and of each framework and extension imports, against the reasons of the privacy manifest in the same bundle.',
    errs: "A reason that Apple's list does not have is estimated. Calls by name at run time are not seen.",
    fixes: [
      {
        where: 'PrivacyInfo.xcprivacy',
        language: 'xml',
        code: `<key>NSPrivacyAccessedAPITypes</key>
<array><dict>
  <key>NSPrivacyAccessedAPIType</key><string>NSPrivacyAccessedAPICategoryUserDefaults</string>
  <key>NSPrivacyAccessedAPITypeReasons</key><array><string>CA92.1</string></array>
</dict></array>`,
      },
    ],
  },
});

function judgeReason(fact: RequiredReasonFact): Assertion<Data> {
  const { does, reasons } = REASON_CATEGORIES.find(({ name }) => name === fact.category)!;
  if (fact.given.length === 0) return { outcome: 'failed', draft: draftOf(fact, 'none', does, reasons) };
  // the list may have grown since it was copied
  return fact.given.some((reason) => reasons.includes(reason))
    ? { outcome: 'passed' }
    : { outcome: 'cantTell', draft: draftOf(fact, 'unknown', does, reasons) };
}

const draftOf = (
  { category, evidence, given, part, symbols }: RequiredReasonFact,
  flaw: 'none' | 'unknown',
  does: string,
  known: readonly string[],
): Draft<Data> => ({
  identity: { subject: part || 'app', aspect: category },
  basis: flaw === 'none' ? 'measured' : 'estimated',
  severity: flaw === 'none' ? 3 : 1,
  digest: `${symbols.join(' ')} ${given.join(' ')}`,
  occurrence: {
    evidence,
    shown: part,
    data: { category, does, flaw, given, known: [...known], part, symbols },
  },
});
