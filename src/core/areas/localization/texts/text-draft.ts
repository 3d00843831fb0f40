import { z } from 'zod';
import type { CatalogueTextFact } from '../../../model/fact.ts';
import type { Basis } from '../../../model/outcome.ts';
import type { Assertion, CheckData, Draft } from '../../check.ts';

/** What the finding on a text tells about it, whatever is wrong. */
export const textPlaceShape = {
  key: z.string(),
  locale: z.string(),
  /** Of a plural, or its place in a list; empty where there are none. */
  form: z.string(),
  text: z.string(),
  /** Of a catalogue that was added as a file. */
  file: z.string().optional(),
  line: z.number().optional(),
};
const placeSchema = z.strictObject(textPlaceShape);
export type TextPlace = z.infer<typeof placeSchema>;

interface Of<Data extends object> {
  /** The language that is wrong. */
  locale: string;
  severity: number;
  digest: string;
  basis?: Basis;
  data: Data;
}

/** A failure of one text: `key (form)` in its language. */
export function textDraft<Data extends CheckData>(
  fact: CatalogueTextFact,
  { basis = 'measured', data, digest, locale, severity }: Of<Data>,
): Draft<Data & TextPlace> {
  const { evidence, file, form, key, line, text } = fact;
  return {
    identity: { subject: form ? `${key} (${form})` : key, aspect: locale },
    basis,
    severity,
    digest,
    occurrence: {
      evidence,
      shown: text,
      data: {
        key,
        locale,
        form: form ?? '',
        text,
        ...(file !== undefined && { file }),
        ...(line !== undefined && { line }),
        ...data,
      },
    },
  };
}

/** What is measured fails, estimated ones wait for a person. */
export const toAssertion = <Data extends CheckData>(draft: Draft<Data>): Assertion<Data> => ({
  outcome: draft.basis === 'measured' ? 'failed' : 'cantTell',
  draft,
});
