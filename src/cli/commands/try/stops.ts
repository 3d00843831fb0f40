import { walkStops } from '../../../core/areas/accessibility/walk-stops.ts';
import { stopsBy, stopTable, type WalkBy } from '../../../core/reports/stop-table.ts';
import type { AddCommand } from '../../command-table.ts';
import { UsageError } from '../../io.ts';
import { styleFor } from '../../style.ts';
import { type CaptureOptions, findTree } from './find-capture.ts';

interface StopsOptions extends CaptureOptions {
  by: string;
  json?: boolean;
}

/** `fenlok try stops`: what a screen reader meets on a screen, in its order. */
export const stopsCommand: AddCommand = (command, { io }) => {
  command
    .argument('<capture>', 'a screen of the dossier, a capture (.json) or an OS dump (.xml)')
    .option('--by <what>', 'walk by all, headings or controls', 'all')
    .option('--dossier <folder>', 'the folder of this candidate', 'dossier')
    .option('--locale <tag>', 'which language of the screen')
    .option('--theme <theme>', 'light or dark')
    .option('--json', 'print the walk as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok try stops timetable\n  fenlok try stops window_dump.xml --by controls',
    )
    .action(async (what: string, options: StopsOptions) => {
      if (!['all', 'headings', 'controls'].includes(options.by))
        throw new UsageError(`--by: "${options.by}" is none of all, headings, controls`);
      const by = options.by as WalkBy;
      const { platform, rtl, title, tree } = await findTree(what, options, io);
      const walk = walkStops(tree, pictureOf(tree.bounds), { platform, rtl });
      if (options.json) {
        const plain = ({
          actionable,
          boundsPx,
          enabled,
          heading,
          key,
          name,
          nameFrom,
          roles,
          shutInBy,
          spoken,
          states,
        }: (typeof walk.stops)[number]) => ({
          key,
          name,
          nameFrom,
          roles,
          states,
          spoken,
          actionable,
          enabled,
          heading,
          boundsPx,
          shutInBy,
        });
        io.out(
          `${JSON.stringify({ screen: title, stops: stopsBy(walk.stops, by).map(plain), unreachable: walk.unreachable.map(plain) }, null, 2)}\n`,
        );
      } else io.out(stopTable(title, walk, by, { style: styleFor(io), widthColumns: io.columns }));
    });
};

export const pictureOf = ({
  height,
  width,
  x,
  y,
}: {
  x: number;
  y: number;
  width: number;
  height: number;
}) => ({
  widthPx: x + width,
  heightPx: y + height,
});
