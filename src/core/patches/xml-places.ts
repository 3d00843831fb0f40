/** XML of a source file with the place of each element, so that it can be changed and every other byte stay. */
import { SaxesParser } from 'saxes';

export interface XmlPlace {
  name: string;
  /** As written, with their prefixes; entities are resolved. */
  attributes: Readonly<Record<string, string>>;
  children: XmlPlace[];
  /** Of its first tag, in characters; `end` is behind its `>`. */
  open: { start: number; end: number };
  /** Behind its last tag. */
  end: number;
}

/** @returns the element at the root; undefined where the XML cannot be read, since nothing in it can be relied upon then */
export function xmlPlaces(text: string): XmlPlace | undefined {
  const parser = new SaxesParser();
  const above: XmlPlace[] = [];
  let root: XmlPlace | undefined;
  let isBroken = false;
  parser.on('error', () => {
    isBroken = true;
  });
  parser.on('opentag', ({ attributes, name }) => {
    const end = parser.position;
    const one = {
      name,
      attributes,
      children: [],
      open: { start: text.lastIndexOf(`<${name}`, end - 1), end },
      end,
    };
    above.at(-1)?.children.push(one);
    root ??= one;
    above.push(one);
  });
  parser.on('closetag', () => {
    const one = above.pop();
    if (one) one.end = parser.position;
  });
  // a mark at the start is part of the file, and not of the XML
  parser.write(text.replace(/^\uFEFF/, ' ')).close();
  return isBroken ? undefined : root;
}

export function* descendants(of: XmlPlace): Generator<XmlPlace> {
  for (const child of of.children) {
    yield child;
    yield* descendants(child);
  }
}

/** An element behind that one, on a line of its own where that one stands on a line of its own. */
export function insertAfter(text: string, { end, open }: XmlPlace, xml: string): string {
  const lead = /\r?\n[ \t]*$/.exec(text.slice(0, open.start))?.[0] ?? '';
  return `${text.slice(0, end)}${lead}${xml}${text.slice(end)}`;
}

/** An attribute with another value; one that is not there comes behind that one, set apart as that one is. */
export function withAttribute(
  text: string,
  { open }: XmlPlace,
  [name, value]: readonly [string, string],
  behind: string,
): string | undefined {
  const tag = text.slice(open.start, open.end);
  const written = (of: string) => new RegExp(`(\\s+)${of}\\s*=\\s*("[^"]*"|'[^']*')`).exec(tag);
  const there = written(name);
  const quoted = `${name}="${value}"`;
  if (there) {
    const at = open.start + there.index + there[1]!.length;
    return `${text.slice(0, at)}${quoted}${text.slice(at + there[0].length - there[1]!.length)}`;
  }
  const anchor = written(behind);
  if (!anchor) return undefined;
  const at = open.start + anchor.index + anchor[0].length;
  return `${text.slice(0, at)}${anchor[1]}${quoted}${text.slice(at)}`;
}
