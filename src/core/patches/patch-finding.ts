import type { Fact } from '../model/fact.ts';
import type { Finding } from '../model/finding.ts';
import type { Intent } from '../model/intent.ts';
import type { NoPatch, Patch, SourceFile } from '../model/patch.ts';
import { canPatchColour, patchColour } from './patch-colour.ts';
import { canPatchManifest, patchManifest } from './patch-manifest.ts';
import { canPatchPlural, patchPlural } from './patch-plural.ts';
import { canPatchSite, patchSite } from './patch-site.ts';
import { canPatchText, patchText } from './patch-text.ts';

const VALUES = /(^|\/)values[^/]*\/[^/]+\.xml$/;
const MANIFEST = /(^|\/)AndroidManifest\.xml$/;
const SITE_FILE = /(^|\/)assetlinks\.json$/;

/** Whether a patch may change it. @param path with slashes */
export const isPatchable = (path: string): boolean =>
  [VALUES, MANIFEST, SITE_FILE].some((one) => one.test(path));

/** The change of the sources that fixes a finding, or why there is none. */
export function patchFinding(
  finding: Finding,
  files: readonly SourceFile[],
  facts: readonly Fact[],
  intent: Intent,
): Patch | NoPatch {
  const { check } = finding;
  const named = (pattern: RegExp) => files.filter(({ path }) => pattern.test(path));
  if (canPatchColour(check)) return patchColour(finding, named(VALUES), facts, intent);
  if (canPatchText(check)) return patchText(finding, named(VALUES), facts, intent);
  if (canPatchPlural(check)) return patchPlural(finding, named(VALUES), facts, intent);
  if (canPatchManifest(check)) return patchManifest(finding, named(MANIFEST), facts, intent);
  if (canPatchSite(check)) return patchSite(finding, named(SITE_FILE), facts, intent);
  return { why: `what ${check} finds has no mechanical remedy that Fenlok knows` };
}
