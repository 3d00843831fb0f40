/** Tags in texts: styled text of Android, HTML that an app renders, tags of a translation tool. */
import type { TextFault } from '../../model/catalogue.ts';

export interface Tag {
  at: number;
  written: string;
  tag: string;
  role: 'open' | 'close' | 'alone';
}

const TAG = /<(\/?)([A-Za-z][\w:.-]*)((?:\s[^<>]*?)?)(\/?)>/g;
// They have no end tag in HTML.
const VOID = new Set(['br', 'hr', 'img', 'wbr']);

export function findTags(text: string): Tag[] {
  if (!text.includes('<')) return [];
  return [...text.matchAll(TAG)].map((match) => {
    const [written, slash, name, , alone] = match as unknown as [string, string, string, string, string];
    const tag = name.toLowerCase();
    return {
      at: match.index,
      written,
      tag,
      role: slash ? 'close' : alone || VOID.has(tag) ? 'alone' : 'open',
    };
  });
}

/** Tags that are not closed, and ends of none that is open. */
export function tagFaults(tags: readonly Tag[]): TextFault[] {
  const open: Tag[] = [];
  const faults: TextFault[] = [];
  for (const tag of tags) {
    if (tag.role === 'open') open.push(tag);
    else if (tag.role === 'close') {
      const at = open.findLastIndex((other) => other.tag === tag.tag);
      if (at < 0) faults.push({ code: 'unopened-tag', at: tag.at, excerpt: tag.written });
      else open.splice(at, 1);
    }
  }
  return [
    ...faults,
    ...open.map(({ at, written }): TextFault => ({ code: 'unclosed-tag', at, excerpt: written })),
  ];
}
