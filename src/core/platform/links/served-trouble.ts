import type { SiteFile } from '../../model/site-file.ts';
import type { Verification } from './link-decision.ts';

/** What keeps the platform from reading a site's file at all. */
export function servedTrouble(
  file: SiteFile,
): Pick<Extract<Verification, { state: 'refused' }>, 'found' | 'wanted' | 'why'> | undefined {
  const { response } = file;
  if (response?.redirectedTo !== undefined)
    return { why: 'redirected', found: response.redirectedTo, wanted: 'the file itself' };
  if (response && response.status !== 200)
    return { why: 'unreadable', found: `status ${response.status}`, wanted: 'status 200' };
  if (file.kind === 'assetlinks' && response && !/^application\/json\b/i.test(response.contentType))
    return { why: 'content-type', found: response.contentType || 'none', wanted: 'application/json' };
  const [problem] = file.problems;
  if (!file.statements && !file.appLinks)
    return { why: 'unreadable', found: problem?.found ?? 'nothing', wanted: problem?.expected ?? 'JSON' };
  return undefined;
}
