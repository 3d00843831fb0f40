/** XML of catalogues, read as far as it goes: where it breaks, what came before is kept, and the place is told. */
import { SaxesParser, type SaxesTagPlain } from 'saxes';
import type { Problem } from '../../model/problem.ts';

interface XmlHandlers {
  /** @param position where its contents begin, in characters */
  open(tag: SaxesTagPlain, line: number, position: number): void;
  text(text: string): void;
  close(name: string): void;
}

class Broken extends Error {}

/** @returns what is wrong with the XML, if anything is */
export function readXml(xml: string, name: string, handlers: XmlHandlers): Problem[] {
  const problems: Problem[] = [];
  // names with prefixes are compared as written, so namespaces are not resolved
  const parser = new SaxesParser();
  parser.on('error', (error) => {
    problems.push({
      code: 'catalogue.xml',
      place: `${name}, line ${parser.line}`,
      found: `XML that cannot be read: ${error.message.replace(/^.*?\d+:\d+: /, '')}`,
      expected: 'a whole XML file',
      remedy: 'Correct the line. What stands before it was read.',
    });
    throw new Broken();
  });
  parser.on('opentag', (tag) => handlers.open(tag, parser.line, parser.position));
  parser.on('text', (text) => handlers.text(text));
  parser.on('cdata', (text) => handlers.text(text));
  parser.on('closetag', (tag) => handlers.close(tag.name));
  try {
    parser.write(xml).close();
  } catch (error) {
    if (!(error instanceof Broken)) throw error;
  }
  return problems;
}

const ESCAPES: Record<string, string> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  // in an attribute the parser would make blanks of them (XML 1.0, 3.3.3)
  '\t': '&#9;',
  '\r': '&#13;',
};

export const escapeXml = (text: string): string => text.replace(/[&<>"\t\r]/g, (char) => ESCAPES[char]!);
/** Within an attribute a line end would be read as a blank (XML 1.0, section 3.3.3). */
export const escapeXmlAttribute = (text: string): string => escapeXml(text).replaceAll('\n', '&#10;');
