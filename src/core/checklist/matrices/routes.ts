/** The app's routes, and how each fares: in the package, with its sites, and on a device. */
import { declaredLinks, nearestMiss, type TriedProbe } from '../../areas/links/declared-links.ts';
import { lastLinkRuns } from '../../areas/links/last-link-runs.ts';
import type { LinkRunFact } from '../../model/facts/links.ts';
import type { IntentRoute } from '../../model/intent-parts.ts';
import type { TableCell } from '../../model/judgement.ts';
import { inapplicableCell, type Matrix, type MatrixContext, untestedCell } from './matrix.ts';

const COLUMNS = ['declared', 'site agrees', 'cold', 'warm', 'in front', 'variants', 'malformed'];

export const routesMatrix: Matrix = {
  id: 'routes',
  drill: 'links',
  table: (context) => {
    const { promised } = context.facts.once(declaredLinks, context.intent);
    const runs = lastLinkRuns(context.facts);
    return {
      columns: COLUMNS,
      rows: context.intent.links.routes.map((route) => ({
        name: route.url,
        note: `→ ${route.screen}`,
        cells: cellsOf(
          route,
          promised.filter(({ probe }) => probe.route === route.id),
          runs.filter((run) => run.route === route.id),
          context,
        ),
      })),
    };
  },
};

function cellsOf(
  route: IntentRoute,
  probes: readonly TriedProbe[],
  runs: readonly LinkRunFact[],
  context: MatrixContext,
): TableCell[] {
  const good = runs.filter(({ probe }) => probe === 'good');
  return [
    declaredCell(route, probes, context),
    siteCell(probes, context),
    ...(['cold', 'warm', 'front'] as const).map((way) =>
      landingCell(
        good.filter(({ how }) => how === way),
        context,
      ),
    ),
    landingCell(
      runs.filter(({ probe }) => probe === 'edge'),
      context,
    ),
    malformedCell(
      runs.filter(({ probe }) => probe === 'hostile'),
      route,
      context,
    ),
  ];
}

function declaredCell({ id }: IntentRoute, probes: readonly TriedProbe[], context: MatrixContext): TableCell {
  if (probes.length === 0) return untestedCell();
  const closed = new Set(
    probes.flatMap(({ decision }) => {
      const nearest = nearestMiss(decision);
      return nearest && ['category', 'enabled', 'exported'].includes(nearest.miss.test) ? [nearest.name] : [];
    }),
  );
  const told = [
    ...context.about({ kind: 'route', id }, 'undeclared-route', 'ambiguous-link'),
    ...[...closed].flatMap((component) =>
      context.about({ kind: 'component', id: component }, 'closed-link-filter'),
    ),
  ];
  return context.cell(told, 'passed');
}

/** Of a private scheme no site is asked. */
function siteCell(probes: readonly TriedProbe[], context: MatrixContext): TableCell {
  const asked = probes.flatMap(({ decision }) => decision.verification ?? []);
  if (asked.length === 0) return inapplicableCell;
  const hosts = new Set(asked.map(({ host }) => host));
  const told = [...hosts].flatMap((id) => context.about({ kind: 'host', id }, 'unverified-domain'));
  const unknown = asked.find(({ state }) => state === 'no-file');
  return unknown
    ? context.cell(told, 'untested', `Nobody has added what ${unknown.host} serves at /.well-known/.`)
    : context.cell(told, 'passed');
}

const KEPT = 'The package or the site keeps it from the app.';

function landingCell(runs: readonly LinkRunFact[], context: MatrixContext): TableCell {
  if (runs.length === 0) return untestedCell();
  const told = context.where(
    ({ check, occurrences }) =>
      (check === 'link-landing' || check === 'link-back') &&
      occurrences.some(({ cell, data, evidence }) =>
        runs.some((run) => run.evidence === evidence && run.cell.step === cell?.step && data.url === run.url),
      ),
  );
  return runs.some(({ inApp }) => inApp)
    ? context.cell(told, 'passed')
    : context.cell(told, 'untested', KEPT);
}

function malformedCell(runs: readonly LinkRunFact[], { id }: IntentRoute, context: MatrixContext): TableCell {
  if (runs.length === 0) return untestedCell();
  const told = context.about({ kind: 'route', id }, 'malformed-link');
  return runs.some(({ inApp }) => inApp)
    ? context.cell(told, 'passed')
    : context.cell(told, 'untested', KEPT);
}
