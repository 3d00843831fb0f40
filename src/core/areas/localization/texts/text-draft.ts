import type { CatalogueTextFact } from '../../../model/fact.ts';
import type { FindingData } from '../../../model/finding.ts';
import type { Basis } from '../../../model/outcome.ts';
import type { Assertion, Draft } from '../../check.ts';

interface Of {
  /** The language that departs. */
  locale: string;
  severity: number;
  digest: string;
  basis?: Basis;
  data?: FindingData;
}

/** A departure of one text: `key (form)` in its language. */
export function textDraft(
  fact: CatalogueTextFact,
  { basis = 'measured', data, digest, locale, severity }: Of,
): Draft {
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

/** Measured departures fail, estimated ones wait for a person. */
export const departure = (draft: Draft): Assertion => ({
  outcome: draft.basis === 'measured' ? 'failed' : 'cantTell',
  draft,
});
