/** Placements by networks: what each needs of the package and of the waterfall, and whether it loaded; the worst rows first. */
import { tellingLoads } from '../areas/ads/telling-loads.ts';
import {
  type Lack,
  lacksInPackage,
  lacksInParameters,
  type WiringPart,
  waterfallEntries,
  wiringParts,
} from '../areas/ads/wiring.ts';
import type { FactIndex } from '../areas/check.ts';
import type { AdSurroundingsFact } from '../model/facts/ads.ts';
import type { Finding } from '../model/finding.ts';
import type { Intent } from '../model/intent.ts';
import type { OutcomeTable, TableCell } from '../model/judgement.ts';
import { type Outcome, worstOf } from '../model/outcome.ts';
import { outcomeOf } from './apply-rulings.ts';

const COLUMNS: Readonly<Record<WiringPart, string>> = {
  library: 'library',
  connector: 'connector',
  declarations: 'declared',
  parameters: 'parameters',
};

export function coverAds(
  facts: FactIndex,
  findings: readonly Finding[],
  intent: Intent,
  strict: boolean,
): OutcomeTable {
  const app = facts.of('ad-surroundings')[0];
  const rows = waterfallEntries(intent).map(({ entry, network, placement }) => {
    const lacks = app && lacksOf(network, entry, app);
    const cells = wiringParts.map((part): TableCell => {
      if (!app) return { outcome: 'untested', findings: [] };
      if (!lacks) return { outcome: 'inapplicable', findings: [] };
      const own = lacks.filter((lack) => lack.part === part);
      const told = findings.filter(({ check, identity }) =>
        own.some(
          ({ name }) =>
            (check === 'ad-wiring' &&
              identity.subject === `network ${network.id}` &&
              identity.aspect === `${part} ${name}`) ||
            (check === 'ad-parameter' &&
              identity.subject === `placement ${placement.id}` &&
              identity.aspect === `${network.id} ${name}`),
        ),
      );
      return cellOf(told, strict);
    });
    cells.push(loadedCell(placement.id, network.id, facts, findings, strict));
    return { name: `${placement.id} · ${network.id}`, note: placement.format, cells };
  });
  return { columns: [...wiringParts.map((part) => COLUMNS[part]), 'loaded'], rows: rows.sort(worstFirst) };
}

function lacksOf(
  network: Parameters<typeof lacksInParameters>[0],
  entry: Parameters<typeof lacksInParameters>[1],
  app: AdSurroundingsFact,
): Lack[] | undefined {
  const inPackage = lacksInPackage(network, app);
  return inPackage && [...inPackage, ...lacksInParameters(network, entry, app.platform)];
}

/** As traces tell. */
function loadedCell(
  placement: string,
  network: string,
  facts: FactIndex,
  findings: readonly Finding[],
  strict: boolean,
): TableCell {
  const own = tellingLoads(facts).filter((load) => load.placement === placement && load.network === network);
  if (own.length === 0) return { outcome: 'untested', why: NOT_LOADED, findings: [] };
  return cellOf(
    findings.filter(
      ({ check, identity }) =>
        check === 'ad-load' && identity.subject === `placement ${placement}` && identity.aspect === network,
    ),
    strict,
  );
}
const NOT_LOADED = 'Load it once in test mode, and add the trace: docs/purchases-and-ads.md.';

function cellOf(told: readonly Finding[], strict: boolean): TableCell {
  const outcomes: Outcome[] = told.map((finding) => outcomeOf(finding, strict));
  return { outcome: worstOf([...outcomes, 'passed']) ?? 'passed', findings: told.map(({ id }) => id) };
}

type Row = OutcomeTable['rows'][number];

const worstFirst = (a: Row, b: Row): number => badness(b) - badness(a);
const badness = ({ cells }: Row): number =>
  cells.reduce((sum, { outcome }) => sum + (outcome === 'failed' ? 100 : outcome === 'cantTell' ? 1 : 0), 0);
