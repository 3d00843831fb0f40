import type { OpenedPackage } from '../../core/formats/package.ts';
import type { LevelRange } from '../../core/formats/signing/verify-apk.ts';
import type { AppPackage } from '../../core/model/app-package.ts';
import { appJson, resourcesJson } from '../../core/reports/package-json.ts';
import { withPackage } from '../../node/read-package.ts';
import type { AddCommand } from '../command-table.ts';
import { type Io, UsageError } from '../io.ts';
import { inCwd, wholeNumber } from './options.ts';
import type { SaleOptions } from './read/sale.ts';

/** `fenlok read`: what a package declares and what stands out in it, or what a store signed. */
export const readCommand: AddCommand = (command, { io, finish }) => {
  command
    .argument(
      '<file>',
      'an APK, an app bundle (AAB) or an iOS package (IPA); or a transaction or purchase as a store signed it',
    )
    .option('--min-sdk <level>', 'verify the signatures for devices from this API level on', wholeNumber)
    .option(
      '--max-sdk <level>',
      'and up to this one; without both, from minSdkVersion to the newest',
      wholeNumber,
    )
    .option(
      '--store <file>',
      'of a sale: the test store that signed it, as `fenlok standin store --connection` wrote it',
    )
    .option('--license-key <file>', "of a purchase that Android's store signed: the app's license key")
    .option('--catalogue <file>', 'of a sale: hold it against this catalogue, as the test store sells it')
    .option('--json', 'print everything that was read as JSON, every resource and value included')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok read app-release.apk\n  fenlok read sale.jws --store test-store.json --catalogue store.yaml\n\nExit codes: 0 read, 1 a sale that does not hold',
    )
    .action(async (file: string, options: ReadCommandOptions) => {
      const { json, maxSdk, minSdk } = options;
      if (!PACKAGE.test(file)) {
        const { isSaleFile } = await import('../../node/sales.ts');
        if (await isSaleFile(inCwd(io, file))) {
          const { readSaleCommand } = await import('./read/sale.ts');
          finish(await readSaleCommand(file, options, io));
          return;
        }
      }
      if (minSdk !== undefined && maxSdk !== undefined && minSdk > maxSdk)
        throw new UsageError(`--min-sdk ${minSdk} is above --max-sdk ${maxSdk}`);
      const signedFor = { minSdk, maxSdk };
      await (json
        ? printJson(io, inCwd(io, file), signedFor)
        : withPackage(inCwd(io, file), async (opened) => io.out(await summarize(opened, io)), {
            signedFor,
            parts: 'declared',
          }));
    });
};

const PACKAGE = /\.(apk|aab|ipa)$/i;

interface ReadCommandOptions extends SaleOptions {
  minSdk?: number;
  maxSdk?: number;
}

/** Resources go out while the signatures are still being verified: on large packages that halves the time. */
const printJson = (io: Io, path: string, signedFor: LevelRange): Promise<void> =>
  withPackage(path, (opened) => io.out(appJson(opened)), {
    parts: 'declared',
    texts: false,
    signedFor,
    whileVerifying: async (modules) => {
      if (!modules[0]?.table) return;
      for (const piece of resourcesJson(modules)) {
        io.signal.throwIfAborted();
        await io.outPiece(piece);
      }
    },
  });

/** Only here are checks and words needed: printing JSON need not wait for them to load. */
async function summarize({ app }: OpenedPackage, io: Io): Promise<string> {
  const { packageSummary } = await import('../../core/reports/package-summary.ts');
  const { styleFor } = await import('../style.ts');
  return packageSummary(app, await findingsOf(app), { style: styleFor(io), widthColumns: io.columns });
}

/** What the package alone shows. Whether the version was raised takes an intent file, and `judge`. */
async function findingsOf(app: AppPackage) {
  const { indexFacts } = await import('../../core/areas/check.ts');
  const { checks } = await import('../../core/areas/checks.ts');
  const { packageObservers } = await import('../../core/areas/observers-by-evidence.ts');
  const { collectFindings } = await import('../../core/checklist/collect-findings.ts');
  const { emptyIntent } = await import('../../core/model/intent.ts');
  const facts = packageObservers.flatMap((observer) => [...observer.observe({ digest: app.digest, app })]);
  const ofPackage = checks.filter(({ id, needs }) => needs === 'package' && id !== 'version-not-raised');
  return collectFindings(ofPackage, indexFacts(facts), emptyIntent(app.build.appId)).flatMap(
    ({ findings }) => findings,
  );
}
