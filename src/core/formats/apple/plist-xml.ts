/** Property lists as XML (Apple, `PropertyList-1.0.dtd`). */
import { SaxesParser } from 'saxes';
import type { PlistDict, PlistValue } from '../../model/app-package.ts';
import { UnreadableError } from '../../model/problem.ts';

const MAX_DEPTH = 128;

interface Open {
  value: PlistDict | PlistValue[];
  key?: string;
}

export function parseXmlPlist(bytes: Uint8Array, name: string): PlistValue {
  const parser = new SaxesParser();
  const open: Open[] = [];
  let root: PlistValue | undefined;
  let text = '';
  const fail = (found: string): never => {
    throw new UnreadableError({
      code: 'plist.damaged',
      place: `${name}, line ${parser.line}`,
      found: `a property list with ${found}`,
      expected: 'a property list, as XML or binary',
      remedy: 'Give the file as the build wrote it.',
    });
  };
  const put = (value: PlistValue) => {
    const inside = open.at(-1);
    if (!inside) root ??= value;
    else if (Array.isArray(inside.value)) inside.value.push(value);
    else if (inside.key === undefined) fail('a value without a key');
    else {
      Object.defineProperty(inside.value, inside.key, { value, enumerable: true, configurable: true });
      inside.key = undefined;
    }
  };
  parser.on('error', (error) => fail(`XML that cannot be read (${error.message.replace(/^\d+:\d+: /, '')})`));
  parser.on('opentag', ({ name: tag }) => {
    text = '';
    if (tag !== 'dict' && tag !== 'array') return;
    if (open.length >= MAX_DEPTH) fail(`values nested ${open.length} deep`);
    const value: Open['value'] = tag === 'dict' ? {} : [];
    put(value);
    open.push({ value });
  });
  parser.on('text', (more) => {
    text += more;
  });
  parser.on('cdata', (more) => {
    text += more;
  });
  parser.on('closetag', ({ name: tag }) => {
    if (tag === 'dict' || tag === 'array') open.pop();
    else if (tag === 'key') {
      const inside = open.at(-1);
      if (!inside || Array.isArray(inside.value)) fail('a key outside a dictionary');
      else inside.key = text;
    } else if (tag !== 'plist') put(readLeaf(tag, text, fail));
  });
  parser.write(new TextDecoder().decode(bytes)).close();
  return root ?? fail('nothing in it');
}

function readLeaf(tag: string, text: string, fail: (found: string) => never): PlistValue {
  switch (tag) {
    case 'string':
      return text;
    case 'integer':
    case 'real':
      return Number(text);
    case 'true':
      return true;
    case 'false':
      return false;
    case 'date':
      return text.trim();
    case 'data':
      return text.replace(/\s+/g, '');
    default:
      return fail(`a <${tag}>`);
  }
}
