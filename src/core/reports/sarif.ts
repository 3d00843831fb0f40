/**
 * SARIF 2.1.0 (OASIS): what failed is `fail`, what cannot be told is `review` with level `none` (section 3.27.9), what was not
 * looked at again is `open`. What people ruled is a suppression, and the candidate before the baseline.
 */
import type { Check } from '../areas/check.ts';
import { outcomeOf } from '../checklist/apply-rulings.ts';
import { formatBuild } from '../model/candidate.ts';
import type { Change, ComparedFinding } from '../model/comparison.ts';
import type { Finding } from '../model/finding.ts';
import type { Judgement } from '../model/judgement.ts';
import type { Patch } from '../model/patch.ts';
import { checkPage } from './check-pages.ts';
import { formatPlaces } from './outline.ts';
import type { ReportContext, SourcePlace } from './report-format.ts';

const BASE = 'SOURCES';

export function sarifReport(judgement: Judgement, context: ReportContext): string {
  const { candidate, findings, judgedAt } = judgement;
  const { comparison, version } = context;
  // what is in the candidate before alone
  const gone = comparison?.findings.filter(({ after }) => !after) ?? [];
  const ids = [...new Set([...findings, ...gone].map(({ check }) => check))].sort();
  const rules = ids.map((id) =>
    ruleOf(
      id,
      context.checks.find((check) => check.id === id),
    ),
  );
  const blocking = new Set(
    judgement.items.filter(({ level }) => level === 'blocking').flatMap((item) => item.findings),
  );
  const changeOf = new Map(comparison?.findings.map((one) => [one.after?.id, one.change]));
  const run = {
    tool: { driver: { name: 'Fenlok', semanticVersion: version, rules } },
    columnKind: 'utf16CodeUnits',
    originalUriBaseIds: { [BASE]: { description: { text: 'The folder of the sources.' } } },
    automationDetails: { id: `${candidate.build.appId}/${candidate.build.build}/` },
    invocations: [{ executionSuccessful: true, endTimeUtc: judgedAt }],
    properties: { build: formatBuild(candidate.build), verdict: judgement.verdict },
    results: [
      ...findings.map((finding) => ({
        ...resultOf(finding, judgement.strict, blocking.has(finding.id), context),
        ruleIndex: ids.indexOf(finding.check),
        ...(comparison && { baselineState: BASELINE[changeOf.get(finding.id) ?? 'unchanged'] }),
      })),
      ...gone.map((one) => ({ ...goneResult(one), ruleIndex: ids.indexOf(one.check) })),
    ],
  };
  return `${JSON.stringify({ $schema: 'https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json', version: '2.1.0', runs: [run] }, null, 2)}\n`;
}

function ruleOf(id: string, check: Check | undefined) {
  if (!check) return { id };
  const page = checkPage(check);
  return {
    id,
    shortDescription: { text: `${check.doc.looksAt}.` },
    fullDescription: { text: `${check.doc.matters} (${check.standard})` },
    help: { text: page, markdown: page },
    properties: { area: check.area, priority: check.priority, basis: check.basis, tags: [check.area] },
  };
}

function resultOf(
  finding: Finding,
  strict: boolean,
  isBlocking: boolean,
  { patches, places }: ReportContext,
) {
  const { check, digest, id, ruling, words } = finding;
  const isUndecided = !ruling && outcomeOf(finding, strict) === 'cantTell';
  const patch = patches?.get(id);
  return {
    ruleId: check,
    kind: isUndecided ? 'review' : 'fail',
    level: isUndecided ? 'none' : isBlocking ? 'error' : 'warning',
    message: {
      text: `${words.what}. Measured: ${words.measured}. Required: ${words.required}. ${words.why} ${words.remedy}`,
    },
    locations: [locationOf(finding, places?.get(id))],
    partialFingerprints: { 'fenlokFinding/v1': id, 'fenlokMeasured/v1': digest },
    ...(ruling &&
      ruling.ruling !== 'real' && {
        suppressions: [
          {
            kind: 'external',
            status: 'accepted',
            justification: `${ruling.ruling}, ${ruling.by}: ${ruling.why}`,
          },
        ],
      }),
    ...(patch && { fixes: [fixOf(patch)] }),
    properties: { finding: id, basis: finding.basis, places: formatPlaces(finding) },
  };
}

function locationOf(
  { identity: { aspect, screen, subject }, occurrences: [worst] }: Finding,
  place: SourcePlace | undefined,
) {
  const name = [screen, subject, aspect].filter(Boolean).join('/');
  return {
    ...(place && {
      physicalLocation: {
        artifactLocation: { uri: uriOf(place.path), uriBaseId: BASE },
        region: { startLine: place.line, startColumn: place.column },
      },
    }),
    logicalLocations: [
      { name: subject, fullyQualifiedName: name, kind: screen === undefined ? 'resource' : 'element' },
    ],
    ...(worst!.shown && { message: { text: worst!.shown } }),
  };
}

const uriOf = (path: string): string => path.split('/').map(encodeURIComponent).join('/');

const BASELINE: Readonly<Record<Change, 'new' | 'unchanged' | 'updated' | 'absent'>> = {
  new: 'new',
  undecided: 'new',
  'first-look': 'new',
  worse: 'updated',
  better: 'updated',
  moved: 'updated',
  'other-limit': 'updated',
  unchanged: 'unchanged',
  'not-looked-again': 'unchanged',
  cleared: 'absent',
  fixed: 'absent',
};

function goneResult({ before, change, check, what, where, why }: ComparedFinding) {
  const isOpen = change === 'not-looked-again' || change === 'other-limit';
  return {
    ruleId: check,
    kind: isOpen ? 'open' : 'pass',
    level: 'none',
    message: { text: `${what}${why ? `: ${why}` : ''}.` },
    locations: [{ logicalLocations: [{ name: where, fullyQualifiedName: where }] }],
    partialFingerprints: { 'fenlokFinding/v1': before!.id },
    baselineState: BASELINE[change],
  };
}

/** The one stretch of each file that differs. */
function fixOf({ edits, says }: Patch) {
  return {
    description: { text: says },
    artifactChanges: edits.map(({ after, before, path }) => {
      let start = 0;
      while (start < before.length && start < after.length && before[start] === after[start]) start += 1;
      let end = 0;
      const most = Math.min(before.length, after.length) - start;
      while (end < most && before.at(-1 - end) === after.at(-1 - end)) end += 1;
      const [from, to] = [placeAt(before, start), placeAt(before, before.length - end)];
      return {
        artifactLocation: { uri: uriOf(path), uriBaseId: BASE },
        replacements: [
          {
            deletedRegion: {
              startLine: from.line,
              startColumn: from.column,
              endLine: to.line,
              endColumn: to.column,
            },
            insertedContent: { text: after.slice(start, after.length - end) },
          },
        ],
      };
    }),
  };
}

function placeAt(text: string, offset: number): { line: number; column: number } {
  const before = text.slice(0, offset);
  return { line: before.split('\n').length, column: offset - before.lastIndexOf('\n') };
}
