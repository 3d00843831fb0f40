/** `_CodeSignature/CodeResources`: a digest of each file in the bundle (Apple, *Technical Note TN2206*, version 2 rules). */
import type { PlistDict } from '../../model/app-package.ts';
import type { Ports } from '../../model/ports.ts';
import { type Problem, UnreadableError } from '../../model/problem.ts';
import { toBase64 } from '../base64.ts';
import { canInflateAll, type Zip } from '../zip.ts';
import { isDict, textAt } from './plist.ts';

const MAX_PROBLEMS = 20;

/** @returns files of the bundle that were changed or left out after signing */
export async function verifySealedResources(
  zip: Zip,
  bundle: string,
  sealed: PlistDict,
  ports: Ports,
): Promise<Problem[]> {
  const problems: Problem[] = [];
  const refuse = (name: string, found: string) =>
    problems.push({ code: 'signature.entry', place: `entry ${name}`, found });
  if (!canInflateAll(zip)) return problems;
  for (const [path, rule] of Object.entries(isDict(sealed.files2) ? sealed.files2 : {})) {
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
  return problems;
}
