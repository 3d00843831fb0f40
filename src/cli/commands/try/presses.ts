import { type ScanPattern, scanStops } from '../../../core/areas/accessibility/scan.ts';
import { walkStops } from '../../../core/areas/accessibility/walk-stops.ts';
import { pressTable } from '../../../core/reports/stop-table.ts';
import type { AddCommand } from '../../command-table.ts';
import { UsageError } from '../../io.ts';
import { styleFor } from '../../style.ts';
import { type CaptureOptions, findTree } from './find-capture.ts';
import { pictureOf } from './stops.ts';

interface PressesOptions extends CaptureOptions {
  pattern: string;
  seconds: string;
  json?: boolean;
}

/** `fenlok try presses`: what it takes with two switches to reach each control. */
export const pressesCommand: AddCommand = (command, { io }) => {
  command
    .argument('<capture>', 'a screen of the dossier, a capture (.json) or an OS dump (.xml)')
    .option('--pattern <pattern>', 'linear, or rows: row by row', 'linear')
    .option('--seconds <number>', 'time that one press takes', '1')
    .option('--dossier <folder>', 'the folder of this candidate', 'dossier')
    .option('--locale <tag>', 'which language of the screen')
    .option('--theme <theme>', 'light or dark')
    .option('--json', 'print the table as JSON')
    .addHelpText('after', '\nExample:\n  fenlok try presses booking --pattern rows --seconds 1.5')
    .action(async (what: string, options: PressesOptions) => {
      if (options.pattern !== 'linear' && options.pattern !== 'rows')
        throw new UsageError(`--pattern: "${options.pattern}" is neither linear nor rows`);
      const pattern: ScanPattern = options.pattern;
      const seconds = Number(options.seconds);
      if (!(seconds > 0 && seconds <= 60))
        throw new UsageError(`--seconds: "${options.seconds}" is not a number above 0 and up to 60`);
      const { platform, rtl, title, tree } = await findTree(what, options, io);
      const { stops } = walkStops(tree, pictureOf(tree.bounds), { platform, rtl });
      const scanned = scanStops(stops, pattern, seconds);
      if (options.json)
        io.out(
          `${JSON.stringify({ screen: title, pattern, secondsEach: seconds, controls: scanned.map(({ presses, row, seconds: time, stop }) => ({ key: stop.key, name: stop.name, row, presses, seconds: time })) }, null, 2)}\n`,
        );
      else {
        const said = { linear: 'one after another', rows: 'row by row' }[pattern];
        io.out(pressTable(title, scanned, said, seconds, { style: styleFor(io), widthColumns: io.columns }));
      }
    });
};
