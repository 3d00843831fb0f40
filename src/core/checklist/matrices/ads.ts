/** Placements by networks: what each needs of the package and of the waterfall, and whether it loaded; the worst rows first. */
import { tellingLoads } from '../../areas/ads/telling-loads.ts';
import {
  type Lack,
  lacksInPackage,
  lacksInParameters,
  type WiringPart,
  waterfallEntries,
  wiringParts,
} from '../../areas/ads/wiring.ts';
import type { AdSurroundingsFact } from '../../model/facts/ads.ts';
import type { OutcomeTable, TableCell } from '../../model/judgement.ts';
import { inapplicableCell, type Matrix, type MatrixContext, untestedCell } from './matrix.ts';

const COLUMNS: Readonly<Record<WiringPart, string>> = {
  library: 'library',
  connector: 'connector',
  declarations: 'declared',
  parameters: 'parameters',
};

export const adsMatrix: Matrix = {
  id: 'ads',
  drill: 'ads',
  table: (context) => {
    const app = context.facts.of('ad-surroundings')[0];
    const rows = waterfallEntries(context.intent).map(({ entry, network, placement }) => {
      const lacks = app && lacksOf(network, entry, app);
      const wiring = wiringParts.map((part): TableCell => {
        if (!app) return untestedCell();
        if (!lacks) return inapplicableCell;
        const found =
          part === 'parameters'
            ? context.about({ kind: 'placement', id: placement.id, part: network.id }, 'ad-parameter')
            : context.about({ kind: 'network', id: network.id, part }, 'ad-wiring');
        return context.cell(found, 'passed');
      });
      const cells = [...wiring, loadedCell(placement.id, network.id, context)];
      return { name: `${placement.id} · ${network.id}`, note: placement.format, cells };
    });
    return {
      columns: [...wiringParts.map((part) => COLUMNS[part]), 'loaded'],
      rows: rows.sort(worstFirst),
    };
  },
};

function lacksOf(
  network: Parameters<typeof lacksInParameters>[0],
  entry: Parameters<typeof lacksInParameters>[1],
  app: AdSurroundingsFact,
): Lack[] | undefined {
  const inPackage = lacksInPackage(network, app);
  return inPackage && [...inPackage, ...lacksInParameters(network, entry, app.platform)];
}

/** As traces tell. */
function loadedCell(placement: string, network: string, context: MatrixContext): TableCell {
  const own = tellingLoads(context.facts).filter(
    (load) => load.placement === placement && load.network === network,
  );
  return own.length === 0
    ? untestedCell(NOT_LOADED)
    : context.cell(context.about({ kind: 'placement', id: placement, part: network }, 'ad-load'), 'passed');
}
const NOT_LOADED = 'Load it once in test mode, and add the trace: docs/purchases-and-ads.md.';

type Row = OutcomeTable['rows'][number];

const worstFirst = (a: Row, b: Row): number => badness(b) - badness(a);
const badness = ({ cells }: Row): number =>
  cells.reduce((sum, { outcome }) => sum + (outcome === 'failed' ? 100 : outcome === 'cantTell' ? 1 : 0), 0);
