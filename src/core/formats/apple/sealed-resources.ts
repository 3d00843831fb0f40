/**
 * `_CodeSignature/CodeResources`: a digest of each file in a bundle, and rules that say which files need one (Apple,
 * *Technical Note TN2206*, rules of version 2).
 */
import type { PlistDict, PlistValue } from '../../model/app-package.ts';
import type { Ports } from '../../model/ports.ts';
import { type Problem, UnreadableError } from '../../model/problem.ts';
import { toBase64 } from '../base64.ts';
import { canInflateAll, type Zip } from '../zip.ts';
import { isDict, textAt } from './plist.ts';

const MAX_PROBLEMS = 20;

/**
 * @param bundle its folder in the archive, with a slash
 * @param executable the code itself, which has the signature and needs no digest
 * @returns files of the bundle that were changed, left out or added after signing
 */
export async function verifySealedResources(
  zip: Zip,
  bundle: string,
  executable: string,
  sealed: PlistDict,
  ports: Ports,
): Promise<Problem[]> {
  const problems: Problem[] = [];
  const refuse = (name: string, found: string) =>
    problems.push({ code: 'signature.entry', place: `entry ${name}`, found });
  if (!isDict(sealed.files2) || !canInflateAll(zip)) return problems;
  for (const [path, rule] of Object.entries(sealed.files2)) {
    if (problems.length >= MAX_PROBLEMS) break;
    const expected = isDict(rule) ? textAt(rule, 'hash2') : '';
    const name = bundle + path;
    if (!expected) continue;
    if (!zip.entries.has(name)) {
      if (isDict(rule) && rule.optional !== true) refuse(name, 'a signed file that is not there');
      continue;
    }
    try {
      const digest = toBase64(await ports.digest('sha256', await zip.read(name)));
      if (digest !== expected) refuse(name, 'a file that was changed after signing');
    } catch (error) {
      if (!(error instanceof UnreadableError)) throw error;
      problems.push(error.problem);
    }
  }
  const rules = readRules(sealed.rules2);
  for (const name of zip.entries.keys()) {
    if (problems.length >= MAX_PROBLEMS) break;
    const path = name.startsWith(bundle) ? name.slice(bundle.length) : '';
    const isListed = Object.hasOwn(sealed.files2, path);
    const isCovered = path === '' || path.endsWith('/') || path === executable || isListed;
    if (!isCovered && !NEVER_SEALED.test(path) && needsDigest(path, rules))
      refuse(name, 'a file that was added after signing');
  }
  return problems;
}

// The signature itself, what the store adds to what it hands out, and code that has a signature of its own.
const NEVER_SEALED = /^(_CodeSignature|SC_Info)\/|\.(framework|appex|app|xpc)\/|^Frameworks\/[^/]+\.dylib$/;

interface SealRule {
  pattern: RegExp;
  weight: number;
  omits: boolean;
}

/** The heaviest rule that matches decides; of a file that none matches, nothing is asked. */
function needsDigest(path: string, rules: readonly SealRule[] | undefined): boolean {
  if (!rules || path.length > MAX_PATH) return false;
  const [heaviest] = rules.filter(({ pattern }) => pattern.test(path)).sort((a, b) => b.weight - a.weight);
  return heaviest !== undefined && !heaviest.omits;
}

const MAX_PATH = 1024;
// Runs of anything, groups that may be missing and alternatives, none of them repeated: no pattern that can take long.
const TAME = /^\^?(?:[\w/ -]|\\.|\.\*?|\((?:[\w./|$^-]|\\.|\.\*)*\)\??)*\$?$/;
const MAX_RUNS = 4;

/** @returns undefined where one of them cannot be followed here, so that nothing is known of files without a digest */
function readRules(rules: PlistValue | undefined): SealRule[] | undefined {
  if (!isDict(rules)) return undefined;
  const read: SealRule[] = [];
  for (const [pattern, rule] of Object.entries(rules)) {
    if (!TAME.test(pattern) || pattern.split('.*').length - 1 > MAX_RUNS) return undefined;
    if (rule === false) continue;
    const { nested, omit, weight } = isDict(rule) ? rule : ({} as PlistDict);
    read.push({
      pattern: new RegExp(pattern),
      weight: typeof weight === 'number' ? weight : 1,
      omits: omit === true || nested === true,
    });
  }
  return read;
}
