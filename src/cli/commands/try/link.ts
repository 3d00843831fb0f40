import { join } from 'node:path';
import type { AppPackage } from '../../../core/model/app-package.ts';
import type { SiteFile } from '../../../core/model/site-file.ts';
import {
  type LinkCandidate,
  linkDomainsOf,
  linkFiltersOf,
} from '../../../core/platform/links/link-decision.ts';
import { matchLink } from '../../../core/platform/links/match-link.ts';
import { printable } from '../../../core/reports/escape.ts';
import { linkDerivation } from '../../../core/reports/link-derivation.ts';
import { exists, openDossier } from '../../../node/dossier.ts';
import { readProject } from '../../../node/project.ts';
import { withPackage } from '../../../node/read-package.ts';
import { listSiteFiles, openSiteFile } from '../../../node/site-files.ts';
import type { AddCommand } from '../../command-table.ts';
import { type Io, UsageError } from '../../io.ts';
import { styleFor } from '../../style.ts';
import { type DossierOptions, inCwd } from '../options.ts';

interface LinkOptions extends DossierOptions {
  package?: string;
  site: string[];
  sdk: number;
  certificate?: string;
  all?: boolean;
  json?: boolean;
}

const LONGEST_URL = 32_768;

/** `fenlok try link`: who opens a URL, and why nobody else. */
export const linkCommand: AddCommand = (command, { io }) => {
  command
    .argument('<url>', 'as it stands in a mail')
    .option('--package <file>', 'the package (default: that of the dossier)')
    .option('--dossier <folder>', 'the folder of this candidate', 'dossier')
    .option('--intent <file>', 'the intent file (default: fenlok.yaml here, if there is one)')
    .option(
      '--site <file...>',
      'what sites serve: HOST/.well-known/assetlinks.json (default: those of the dossier)',
      [],
    )
    .option(
      '--certificate <sha256>',
      'of the certificate that the installed app is signed with, where a store signs again',
    )
    .option('--sdk <level>', 'platform version of the device', Number, 35)
    .option('--all', 'everything that could have taken it, not only the nearest')
    .option('--json', 'print the decision as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok try link https://kelpline.example/pass --package app-release.apk --site site/kelpline.example/.well-known/assetlinks.json',
    )
    .action(async (url: string, options: LinkOptions) => {
      if (url.length > LONGEST_URL)
        throw new UsageError(`the URL has ${url.length} characters; devices hand on ${LONGEST_URL} at most`);
      const sites = await sitesOf(options, io);
      await withPackage(
        await packageFile(options, io),
        async ({ app }) => {
          const { intent } = await readProject(
            io.cwd,
            app.build.appId,
            options.intent && inCwd(io, options.intent),
          );
          const decision = matchLink(url, candidateOf(app, options, intent.links.certificates), sites);
          io.out(
            options.json
              ? `${JSON.stringify(decision, null, 2)}\n`
              : linkDerivation(printable(decision), intent, {
                  style: styleFor(io),
                  widthColumns: io.columns,
                  all: options.all ?? false,
                }),
          );
        },
        { parts: 'declared' },
      );
    });
};

const packageFile = async ({ dossier, package: file }: LinkOptions, io: Io): Promise<string> => {
  if (file) return inCwd(io, file);
  const folder = inCwd(io, dossier);
  return join(folder, (await openDossier(folder)).candidate.package.file);
};

async function sitesOf({ dossier, site }: LinkOptions, io: Io): Promise<SiteFile[]> {
  const folder = inCwd(io, dossier);
  if (site.length > 0) return Promise.all(site.map((file) => openSiteFile(inCwd(io, file))));
  if (!(await exists(join(folder, 'dossier.json')))) return [];
  const listed = await listSiteFiles(await openDossier(folder));
  return Promise.all(listed.map(({ file }) => openSiteFile(file)));
}

function candidateOf(app: AppPackage, { certificate, sdk }: LinkOptions, ofIntent: string[]): LinkCandidate {
  const { appId } = app.build;
  if (app.ios) return { appId, ios: linkDomainsOf(app.ios) };
  const { components, targetSdk = 1 } = app.android!.manifest;
  const signed = app.signing.certificates.slice(0, 1).map(({ sha256 }) => sha256);
  const certificates = certificate ? [certificate] : ofIntent.length > 0 ? ofIntent : signed;
  return { appId, android: { filters: linkFiltersOf(components), targetSdk, certificates, deviceSdk: sdk } };
}
