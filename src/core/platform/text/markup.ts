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
// Their end tag may be left out (HTML, 13.1.2.4): the next one, or the end of what holds them, ends them.
const END_OPTIONAL = new Set(['dd', 'dt', 'li', 'p', 'td', 'th', 'tr']);
// What texts are styled with (Android developers, *Styling with HTML markup*; HTML, text-level elements). Other words in
// angle brackets are tags where they come in pairs, and else text: `<untitled>`.
const STYLING = new Set(
  'a annotation b big blockquote cite code del dfn div em font h1 h2 h3 h4 h5 h6 i ins kbd li mark ol p pre q s samp small span strike strong sub sup table td th tr tt u ul'.split(
    ' ',
  ),
);

export function findTags(text: string): Tag[] {
  if (!text.includes('<')) return [];
  const found = [...text.matchAll(TAG)].flatMap((match): Tag[] => {
    const [written, slash, name, , alone] = match as unknown as [string, string, string, string, string];
    const tag = name.toLowerCase();
    // `<br></br>`, as XML has it, is one
    if (slash && VOID.has(tag)) return [];
    return [
      { at: match.index, written, tag, role: slash ? 'close' : alone || VOID.has(tag) ? 'alone' : 'open' },
    ];
  });
  const closed = new Set(found.flatMap(({ role, tag }) => (role === 'close' ? [tag] : [])));
  return found.filter(({ role, tag }) => role !== 'open' || STYLING.has(tag) || closed.has(tag));
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
    ...open
      .filter(({ tag }) => !END_OPTIONAL.has(tag))
      .map(({ at, written }): TextFault => ({ code: 'unclosed-tag', at, excerpt: written })),
  ];
}
