/** The app's routes, and how each fares: in the package, with its sites, and on a device. */
import type { FactIndex } from '../areas/check.ts';
import { declaredLinks, nearestMiss, type TriedProbe } from '../areas/links/declared-links.ts';
import { lastLinkRuns } from '../areas/links/last-link-runs.ts';
import type { LinkRunFact } from '../model/facts/links.ts';
import type { Finding } from '../model/finding.ts';
import type { Intent, IntentRoute } from '../model/intent.ts';
import type { OutcomeTable, TableCell } from '../model/judgement.ts';
import { type Outcome, worstOf } from '../model/outcome.ts';
import { outcomeOf } from './apply-rulings.ts';

const COLUMNS = ['declared', 'site agrees', 'cold', 'warm', 'in front', 'variants', 'malformed'];

export function coverRoutes(
  facts: FactIndex,
  findings: readonly Finding[],
  intent: Intent,
  strict: boolean,
): OutcomeTable {
  const { promised } = facts.once(declaredLinks, intent);
  const runs = lastLinkRuns(facts);
  const judged = new Judged(findings, strict);
  return {
    columns: COLUMNS,
    rows: intent.links.routes.map((route) => {
      const probes = promised.filter(({ probe }) => probe.route === route.id);
      const ofRoute = runs.filter((run) => run.route === route.id);
      const isRun = (wanted: (run: LinkRunFact) => boolean) => ofRoute.filter(wanted);
      return {
        name: route.url,
        note: `→ ${route.screen}`,
        cells: [
          declaredCell(route, probes, judged),
          siteCell(probes, judged),
          ...(['cold', 'warm', 'front'] as const).map((how) =>
            landingCell(
              isRun((run) => run.probe === 'good' && run.how === how),
              judged,
            ),
          ),
          landingCell(
            isRun(({ probe }) => probe === 'edge'),
            judged,
          ),
          malformedCell(
            isRun(({ probe }) => probe === 'hostile'),
            route,
            judged,
          ),
        ],
      };
    }),
  };
}

/** Findings by what they are about, with what was decided on them. */
class Judged {
  readonly #findings: readonly Finding[];
  readonly #strict: boolean;

  constructor(findings: readonly Finding[], strict: boolean) {
    this.#findings = findings;
    this.#strict = strict;
  }

  where(holds: (finding: Finding) => boolean): Finding[] {
    return this.#findings.filter(holds);
  }
  of(check: string, subject: string): Finding[] {
    return this.where((finding) => finding.check === check && finding.identity.subject === subject);
  }
  cell(findings: readonly Finding[], otherwise: Outcome, why?: string): TableCell {
    const outcomes = findings.map((finding) => outcomeOf(finding, this.#strict));
    const outcome = worstOf([...outcomes, otherwise]) ?? otherwise;
    return {
      outcome,
      ...(why !== undefined && outcome === otherwise && { why }),
      findings: findings.map(({ id }) => id),
    };
  }
}

function declaredCell({ id }: IntentRoute, probes: readonly TriedProbe[], judged: Judged): TableCell {
  if (probes.length === 0) return { outcome: 'untested', findings: [] };
  const closed = new Set(
    probes.flatMap(({ decision }) => {
      const nearest = nearestMiss(decision);
      return nearest && ['category', 'enabled', 'exported'].includes(nearest.miss.test) ? [nearest.name] : [];
    }),
  );
  const told = [
    ...judged.of('undeclared-route', `route ${id}`),
    ...judged.of('ambiguous-link', `route ${id}`),
    ...judged.where(
      ({ check, identity }) => check === 'closed-link-filter' && closed.has(identity.subject.split(' ')[0]!),
    ),
  ];
  return judged.cell(told, 'passed');
}

/** Of a private scheme no site is asked. */
function siteCell(probes: readonly TriedProbe[], judged: Judged): TableCell {
  const asked = probes.flatMap(({ decision }) => decision.verification ?? []);
  if (asked.length === 0) return { outcome: 'inapplicable', findings: [] };
  const hosts = new Set(asked.map(({ host }) => host));
  const told = judged.where(
    ({ check, identity }) => check === 'unverified-domain' && hosts.has(identity.subject),
  );
  const unknown = asked.find(({ state }) => state === 'no-file');
  return unknown
    ? judged.cell(told, 'untested', `Nobody has added what ${unknown.host} serves at /.well-known/.`)
    : judged.cell(told, 'passed');
}

const KEPT = 'The package or the site keeps it from the app.';

function landingCell(runs: readonly LinkRunFact[], judged: Judged): TableCell {
  if (runs.length === 0) return { outcome: 'untested', findings: [] };
  const told = judged.where(
    ({ check, occurrences }) =>
      (check === 'link-landing' || check === 'link-back') &&
      occurrences.some(({ cell, data, evidence }) =>
        runs.some((run) => run.evidence === evidence && run.cell.step === cell?.step && data.url === run.url),
      ),
  );
  return runs.some(({ inApp }) => inApp) ? judged.cell(told, 'passed') : judged.cell(told, 'untested', KEPT);
}

function malformedCell(runs: readonly LinkRunFact[], { id }: IntentRoute, judged: Judged): TableCell {
  if (runs.length === 0) return { outcome: 'untested', findings: [] };
  const told = judged.of('malformed-link', `route ${id}`);
  return runs.some(({ inApp }) => inApp) ? judged.cell(told, 'passed') : judged.cell(told, 'untested', KEPT);
}
