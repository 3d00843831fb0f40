/** EARL 1.0 (W3C, Evaluation and Report Language 1.0 Schema) as JSON-LD: what was asserted of each item, and of each finding's check. */
import { outcomeOf } from '../checklist/apply-rulings.ts';
import { formatBuild } from '../model/candidate.ts';
import type { Finding } from '../model/finding.ts';
import type { ItemOutcome, Judgement } from '../model/judgement.ts';
import type { Outcome } from '../model/outcome.ts';
import { formatPlaces } from './outline.ts';
import type { ReportContext } from './report-format.ts';

const CONTEXT = {
  earl: 'http://www.w3.org/ns/earl#',
  dct: 'http://purl.org/dc/terms/',
  xsd: 'http://www.w3.org/2001/XMLSchema#',
};

export function earlReport(judgement: Judgement, { checks, version }: ReportContext): string {
  const { candidate, findings, items, judgedAt, strict } = judgement;
  const subject = { '@id': `urn:fenlok:build:${encodeURIComponent(formatBuild(candidate.build))}` };
  const tool = { '@id': `urn:fenlok:tool:${version}` };
  const when = { '@value': judgedAt, '@type': 'xsd:dateTime' };
  const assertion = (test: object, mode: string, outcome: Outcome, description: string) => ({
    '@type': 'earl:Assertion',
    'earl:assertedBy': tool,
    'earl:subject': subject,
    'earl:test': test,
    'earl:mode': { '@id': `earl:${mode}` },
    'earl:result': {
      '@type': 'earl:TestResult',
      'earl:outcome': { '@id': `earl:${outcome}` },
      'dct:description': description,
      'dct:date': when,
    },
  });
  const itemUri = (id: string) => `urn:fenlok:item:${encodeURIComponent(id)}`;
  const checkUri = (id: string) => `urn:fenlok:check:${encodeURIComponent(id)}`;
  const used = new Set(findings.map(({ check }) => check));
  const graph = [
    {
      ...tool,
      '@type': ['earl:Assertor', 'earl:Software'],
      'dct:title': 'Fenlok',
      'dct:hasVersion': version,
    },
    {
      ...subject,
      '@type': 'earl:TestSubject',
      'dct:title': candidate.name,
      'dct:identifier': formatBuild(candidate.build),
    },
    ...items.map(({ id, shows }) => ({
      '@id': itemUri(id),
      '@type': 'earl:TestRequirement',
      'dct:title': id,
      'dct:description': shows,
    })),
    ...[...used].map((id) => {
      const check = checks.find((one) => one.id === id);
      return {
        '@id': checkUri(id),
        '@type': 'earl:TestCase',
        'dct:title': id,
        ...(check && { 'dct:description': check.doc.looksAt, 'dct:source': check.standard }),
      };
    }),
    ...items.map((item) => assertion({ '@id': itemUri(item.id) }, modeOf(item), item.outcome, item.why)),
    ...findings.map((finding) => ({
      ...assertion(
        { '@id': checkUri(finding.check) },
        finding.ruling ? 'semiAuto' : 'automatic',
        outcomeOf(finding, strict),
        describe(finding),
      ),
      'dct:identifier': finding.id,
    })),
  ];
  return `${JSON.stringify({ '@context': CONTEXT, '@graph': graph }, null, 2)}\n`;
}

/** A person alone, a machine alone, or both. */
function modeOf({ by, why }: ItemOutcome): string {
  const isSigned = why.includes('Signed by ');
  const byMachine = by.checks.length > 0 || by.drill !== undefined;
  return isSigned ? (byMachine ? 'semiAuto' : 'manual') : byMachine ? 'automatic' : 'undisclosed';
}

const describe = (finding: Finding): string =>
  `${finding.words.what}. ${formatPlaces(finding)}. Measured: ${finding.words.measured}. Required: ${finding.words.required}.${finding.ruling ? ` Ruled ${finding.ruling.ruling} by ${finding.ruling.by}: ${finding.ruling.why}.` : ''}`;
