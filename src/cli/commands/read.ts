import { packageSummary } from '../../core/reports/package-summary.ts';
import { withApk } from '../../node/read-package.ts';
import { styleFor } from '../style.ts';
import { type AddCommand, inCwd } from './options.ts';

/** `fenlok read`: what a package declares. */
export const readCommand: AddCommand = (program, io) => {
  program
    .command('read')
    .description('say what a package declares: identity, permissions, languages, links')
    .argument('<package>', 'an APK')
    .option('--json', 'print everything that was read as JSON')
    .addHelpText('after', '\nExample:\n  fenlok read app-release.apk')
    .action(async (file: string, options: { json?: boolean }) => {
      const app = await withApk(inCwd(io, file), (apk) => apk.app);
      io.out(options.json ? `${JSON.stringify(app, null, 2)}\n` : packageSummary(app, styleFor(io)));
    });
};
