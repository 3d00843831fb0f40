/** Compiled storyboards of an app: which of its screens they name (their Info.plist, as Apple's own compiler writes it). */
import type { PlistDict, Storyboard } from '../../model/app-package.ts';
import type { Problem } from '../../model/problem.ts';
import type { Zip } from '../zip.ts';
import { CODE_BUNDLE, readOptional } from './bundle.ts';
import { dictsAt, isDict, parsePlistDict, textAt } from './plist.ts';

const MOST_STORYBOARDS = 500;
// Names that the compiler gives where nobody did: `BYZ-38-t0r`.
const GENERATED = /(^|-)\w{3}-\w{2}-\w{3}$/;

/**
 * @param info of the app
 * @returns those of the app itself, each once, whatever languages it is there for, but the one that is shown while it starts; those
 *   that its scenes begin with first. Frameworks keep theirs
 */
export async function readStoryboards(
  zip: Zip,
  bundle: string,
  info: PlistDict,
  unread: Problem[],
): Promise<Storyboard[]> {
  const files = [...zip.entries.keys()].filter((name) => name.startsWith(bundle));
  const launch = textAt(info, 'UILaunchStoryboardName');
  const first = [textAt(info, 'UIMainStoryboardFile'), ...sceneStoryboards(info)];
  const rank = ({ name }: Storyboard) => (first.includes(name) ? 0 : 1);
  const found = new Map<string, Storyboard>();
  for (const file of files) {
    const path = file.slice(bundle.length);
    const name = /(?:^|\/)([^/]+)\.storyboardc\/Info\.plist$/.exec(path)?.[1];
    if (name === undefined || CODE_BUNDLE.test(path) || found.has(name) || name === launch) continue;
    if (found.size >= MOST_STORYBOARDS) break;
    const info = await readOptional(zip, file, unread, (bytes) => parsePlistDict(bytes, file));
    if (!info) continue;
    const named = info.UIViewControllerIdentifiersToNibNames;
    const all = isDict(named) ? Object.keys(named) : [];
    const entry = textAt(info, 'UIStoryboardDesignatedEntryPointIdentifier');
    const controllers = all.filter((one) => !GENERATED.test(one));
    found.set(name, { name, entry, controllers, unnamed: all.length - controllers.length });
  }
  return [...found.values()].sort((a, b) => rank(a) - rank(b));
}

/** Of the scene manifest, whatever role a scene has. */
function sceneStoryboards({ UIApplicationSceneManifest: manifest }: PlistDict): string[] {
  const configurations = isDict(manifest) ? manifest.UISceneConfigurations : undefined;
  return isDict(configurations)
    ? Object.keys(configurations).flatMap((role) =>
        dictsAt(configurations, role).map((scene) => textAt(scene, 'UISceneStoryboardFile')),
      )
    : [];
}
