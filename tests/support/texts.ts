import { indexFacts } from '../../src/core/areas/check.ts';
import { checks } from '../../src/core/areas/checks.ts';
import { observeCatalogueFile } from '../../src/core/areas/localization/observers/observe-catalogue-file.ts';
import { collectFindings } from '../../src/core/checklist/collect-findings.ts';
import type { CatalogueEntry, TextSyntax } from '../../src/core/model/catalogue.ts';
import type { Fact } from '../../src/core/model/fact.ts';
import type { Finding } from '../../src/core/model/finding.ts';
import type { Intent } from '../../src/core/model/intent.ts';
import { anIntent } from './facts.ts';

type Value = string | string[] | Record<string, string>;

/** `{ key: { en: 'Hello', de: 'Hallo' } }`; a plural as an object by category, a list as an array. */
export const entriesOf = (keys: Record<string, Record<string, Value>>): CatalogueEntry[] =>
  Object.entries(keys).flatMap(([key, locales]) =>
    Object.entries(locales).map(([locale, value]): CatalogueEntry => {
      if (typeof value === 'string') return { key, locale, kind: 'text', forms: [{ form: '', text: value }] };
      const kind = Array.isArray(value) ? 'list' : 'plural';
      return { key, locale, kind, forms: Object.entries(value).map(([form, text]) => ({ form, text })) };
    }),
  );

/** Facts of one catalogue file in its format's own syntax. */
export const textFacts = (entries: readonly CatalogueEntry[], syntax: TextSyntax = 'printf-java'): Fact[] => [
  ...observeCatalogueFile.observe({
    digest: 'texts',
    platform: syntax === 'printf-apple' ? 'ios' : 'android',
    name: 'res',
    file: 'texts',
    catalogue: { format: 'arb', syntax, entries: [...entries], problems: [] },
  }),
];

const aPackage: Fact = {
  kind: 'package',
  platform: 'android',
  evidence: 'package',
  container: 'apk',
  build: { appId: 'example.app', version: '1', build: '1', code: 'c' },
  debuggable: false,
  testOnly: false,
  permissions: [],
  locales: [],
};

/** The findings of some checks, or of all of an area. */
export function findingsIn(
  facts: readonly Fact[],
  of: string | string[],
  intent: Intent = anIntent(),
): Finding[] {
  const wanted = checks.filter(({ area, id }) => (Array.isArray(of) ? of.includes(id) : area === of));
  return collectFindings(wanted, indexFacts([aPackage, ...facts]), intent).flatMap(
    ({ findings }) => findings,
  );
}

export const formatFindings = (findings: readonly Finding[]): string[] =>
  findings
    .map(({ check, identity }) => [check, identity.subject, identity.aspect ?? ''].join(' ').trim())
    .sort();
