/** The files that a team keeps beside its source: intent, own checklist, rulings. */
import { dirname, join } from 'node:path';
import type { Check } from '../core/areas/check.ts';
import { checks as shippedChecks } from '../core/areas/checks.ts';
import { type AssembledChecklist, assembleChecklist } from '../core/checklist/assemble-checklist.ts';
import { mobileRelease } from '../core/checklist/mobile-release.ts';
import { adNetworkSchema } from '../core/model/ad-network.ts';
import { checklistSchema } from '../core/model/checklist.ts';
import { emptyIntent, type Intent, intentSchema } from '../core/model/intent.ts';
import type { IosCommands } from '../core/model/intent-parts.ts';
import { UnreadableError } from '../core/model/problem.ts';
import { type RulingsFile, rulingsFileSchema } from '../core/model/ruling.ts';
import { exists } from './dossier.ts';
import { type LoadedExtension, loadExtensions } from './extensions.ts';
import { readYaml } from './read-yaml.ts';

export interface Project {
  /** Undefined where there is no intent file, and little is known of what should be. */
  intentFile?: string;
  intent: Intent;
  checklist: AssembledChecklist;
  /** The shipped ones, and the team's own. */
  checks: readonly Check[];
  extensions: readonly LoadedExtension[];
  rulingsFile: string;
  rulings: RulingsFile;
}

/**
 * @param intentFile as given; otherwise `fenlok.yaml` in `folder` is taken where it exists
 * @param appId what the intent file must be about
 */
export async function readProject(folder: string, appId: string, intentFile?: string): Promise<Project> {
  const file = await intentFileOf(folder, intentFile);
  const written = file ? (await readYaml(file, intentSchema)).value : undefined;
  const extensions = file && written ? await loadExtensions(file, written.extensions) : [];
  const declared = file && written ? await withNetworks(file, written, extensions) : emptyIntent(appId);
  const checks = [...shippedChecks, ...extensions.flatMap((one) => one.checks)];
  const { id, suffixes } = declared.app;
  if (![id, ...suffixes.map((suffix) => `${id}${suffix}`)].includes(appId))
    throw new UnreadableError({
      code: 'intent.other-app',
      file,
      place: 'app.id',
      found: id,
      expected: `${appId}, the app of the candidate`,
      remedy: appId.startsWith(`${id}.`)
        ? `Is it a variant of the same app? Then write "${appId.slice(id.length)}" under app.suffixes.`
        : 'Name the right intent file with --intent.',
    });
  const intent: Intent = { ...declared, app: { ...declared.app, id: appId } };
  const beside = file ? dirname(file) : folder;
  const rulingsFile = join(beside, RULINGS);
  const base = checklistSchema.parse(mobileRelease);
  const own = intent.checklist.own
    ? (await readYaml(join(beside, intent.checklist.own), checklistSchema)).value
    : undefined;
  return {
    intentFile: file,
    intent,
    checks,
    extensions,
    checklist: assembleChecklist(
      base,
      own,
      checks.map(({ id }) => id),
    ),
    rulingsFile,
    rulings: (await exists(rulingsFile))
      ? (await readYaml(rulingsFile, rulingsFileSchema)).value
      : { fenlok: 'rulings/1', rulings: [], signOffs: [] },
  };
}

const RULINGS = 'rulings.yaml';

async function intentFileOf(folder: string, given: string | undefined): Promise<string | undefined> {
  const inFolder = join(folder, 'fenlok.yaml');
  return given ?? ((await exists(inFolder)) ? inFolder : undefined);
}

/** Where a team's rulings lie, whether they can be read or not. */
export async function rulingsFileBeside(folder: string, intentFile?: string): Promise<string> {
  const file = await intentFileOf(folder, intentFile);
  return join(file ? dirname(file) : folder, RULINGS);
}

/** The programs that the project of a folder names for its devices, where it is one. @throws UnreadableError */
export async function readIosCommands(folder: string): Promise<IosCommands | undefined> {
  const file = await intentFileOf(folder, undefined);
  return file === undefined ? undefined : (await readYaml(file, intentSchema)).value.ios.commands;
}

/** With the descriptions of ad networks in the place of their files. @throws UnreadableError */
export const readIntent = async (file: string): Promise<Intent> =>
  withNetworks(file, (await readYaml(file, intentSchema)).value, []);

async function withNetworks(
  file: string,
  intent: Intent,
  extensions: readonly LoadedExtension[],
): Promise<Intent> {
  const described = await Promise.all(
    intent.ads.networks.map(async (one) =>
      typeof one === 'string' ? (await readYaml(join(dirname(file), one), adNetworkSchema)).value : one,
    ),
  );
  const networks = [...described, ...extensions.flatMap((one) => one.networks)];
  const known = networks.map(({ id }) => id);
  for (const [i, { waterfall }] of intent.ads.placements.entries())
    for (const { network } of waterfall)
      if (!known.includes(network))
        throw new UnreadableError({
          code: 'intent.unknown-network',
          file,
          place: `ads.placements.${i}`,
          found: `the network "${network}"`,
          expected: `one that is described under ads.networks: ${known.join(', ') || 'there are none'}`,
        });
  return { ...intent, ads: { ...intent.ads, networks } };
}
