import { join } from 'node:path';
import type { AppPackage } from '../../../core/model/app-package.ts';
import type { SiteFile } from '../../../core/model/site-file.ts';
import {
  type LinkCandidate,
  linkDomainsOf,
  linkFiltersOf,
} from '../../../core/platform/links/link-decision.ts';
import { matchLink } from '../../../core/platform/links/match-link.ts';
import { type LinkProposal, proposeLink } from '../../../core/platform/links/propose-link.ts';
import { printable } from '../../../core/reports/escape.ts';
import { linkDerivation } from '../../../core/reports/link-derivation.ts';
import { outcomeMark } from '../../../core/reports/outcome-words.ts';
import { wrap } from '../../../core/reports/wrap.ts';
import { exists, openDossier } from '../../../node/dossier.ts';
import { readProject } from '../../../node/project.ts';
import { withPackage } from '../../../node/read-package.ts';
import { listSiteFiles, openSiteFile } from '../../../node/site-files.ts';
import type { AddCommand } from '../../command-table.ts';
import { type Io, UsageError } from '../../io.ts';
import { styleFor } from '../../style.ts';
import { type DeviceCall, withDevice } from '../device-options.ts';
import { type DossierOptions, inCwd } from '../options.ts';
import { fireOnDevice } from './link-on-device.ts';

interface LinkOptions extends DossierOptions, DeviceCall {
  app?: string;
  propose?: string | true;
  package?: string;
  site: string[];
  sdk: number;
  certificate?: string;
  all?: boolean;
  json?: boolean;
}

const LONGEST_URL = 32_768;

/** `fenlok try link`: who opens a URL, and why nobody else. */
export const linkCommand: AddCommand = (command, { finish, io }) => {
  withDevice(command)
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
    .option('--app <id>', 'with --device: the app that is meant to take it (default: the one that does)')
    .option(
      '--propose [activity]',
      'what would make it open: the filter and the file of the site, held against the same matcher',
    )
    .option('--json', 'print the decision as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok try link https://kelpline.example/pass --package app-release.apk --site site/kelpline.example/.well-known/assetlinks.json\n  fenlok try link https://kelpline.example/pass --device emulator-5554\n\nWith --device it is fired on the phone, with the app gone, left and in front; exit code 1 where the app does not take it.',
    )
    .action(async (url: string, options: LinkOptions) => {
      if (url.length > LONGEST_URL)
        throw new UsageError(`the URL has ${url.length} characters; devices hand on ${LONGEST_URL} at most`);
      if (options.device !== undefined) {
        finish(await fireOnDevice(url, options, io));
        return;
      }
      const sites = await sitesOf(options, io);
      await withPackage(
        await packageFile(options, io),
        async ({ app }) => {
          const { intent } = await readProject(
            io.cwd,
            app.build.appId,
            options.intent && inCwd(io, options.intent),
          );
          const candidate = candidateOf(app, options, intent.links.certificates);
          if (options.propose) {
            io.out(
              formatProposal(url, proposalFor(url, app, candidate, sites, options.propose), options, io),
            );
            return;
          }
          const decision = matchLink(url, candidate, sites);
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

function proposalFor(
  url: string,
  app: AppPackage,
  candidate: LinkCandidate,
  siteFiles: readonly SiteFile[],
  named: string | true,
): LinkProposal {
  const activities = app.android?.manifest.components.filter(({ type }) => type === 'activity') ?? [];
  const first = activities.find(({ filters }) =>
    filters.some(({ categories }) => categories.includes('android.intent.category.LAUNCHER')),
  );
  const activity = named === true ? (first?.name ?? 'MainActivity') : named;
  const known = activities.some(({ name }) => name === activity || name.endsWith(`.${activity}`));
  if (named !== true && app.android && !known)
    throw new UsageError(`--propose ${named}: the package has no such activity`);
  const full = activities.find(({ name }) => name.endsWith(`.${activity}`))?.name ?? activity;
  const proposal = proposeLink({ url, candidate, siteFiles, activity: full });
  if (!proposal) throw new UsageError(`--propose: ${url} is no web link with a host`);
  return proposal;
}

function formatProposal(url: string, proposal: LinkProposal, { json }: LinkOptions, io: Io): string {
  if (json) return `${JSON.stringify(proposal, null, 2)}\n`;
  const style = styleFor(io);
  const { decision, notes, ofApp, site } = proposal;
  const isOpen = decision.opens === 'app';
  return [
    style.strong(`For ${url} to open in the app`),
    '',
    ofApp,
    '',
    style.strong(site.path),
    site.text,
    '',
    isOpen
      ? `${outcomeMark.passed} Held against the matcher: with both in place it opens ${decision.components.join(', ')}`
      : `${outcomeMark.failed} Held against the matcher: even then it goes to ${decision.opens}; see  fenlok try link ${url} --all`,
    ...notes.flatMap((note) => wrap(`${outcomeMark.untested} ${note}`, io.columns, 0, 2)),
    '',
  ].join('\n');
}

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
