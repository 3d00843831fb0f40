/** JSON of catalogues with the line of every property, read as far as it goes. A key that comes twice is met twice. */
import { type JSONPath, type ParseErrorCode, printParseErrorCode, visit } from 'jsonc-parser';
import type { Problem } from '../../model/problem.ts';

export interface JsonLeaf {
  path: JSONPath;
  value: string | number | boolean | null;
  line: number;
  /** Where it begins, in characters. */
  at: number;
}

const MAX_DEPTH = 64;

/** Every value that is no object and no list, in the order of the file. */
export function readJsonLeaves(json: string, name: string): { leaves: JsonLeaf[]; problems: Problem[] } {
  const leaves: JsonLeaf[] = [];
  const problems: Problem[] = [];
  let depth = 0;
  let line = 1;
  visit(
    json,
    {
      onObjectBegin: () => {
        depth += 1;
        return depth <= MAX_DEPTH;
      },
      onObjectEnd: () => {
        depth -= 1;
      },
      onObjectProperty: (_name, _offset, _length, startLine) => {
        line = startLine + 1;
      },
      onLiteralValue: (value, offset, _length, startLine, _character, pathOf) => {
        const path = pathOf();
        // in a list a value has no property before it
        const own = typeof path.at(-1) === 'number' ? startLine + 1 : line;
        leaves.push({ path, value, line: own, at: offset });
      },
      onError: (error: ParseErrorCode, _offset, _length, startLine) => {
        // the first break makes many more
        if (problems.length === 0)
          problems.push({
            code: 'catalogue.json',
            place: `${name}, line ${startLine + 1}`,
            found: `JSON that cannot be read: ${formatError(error)}`,
            expected: 'a whole JSON file',
            remedy: 'Correct the line. What could be read was.',
          });
      },
    },
    { disallowComments: true },
  );
  return { leaves, problems };
}

/** `CommaExpected` → `comma expected` */
const formatError = (error: ParseErrorCode): string =>
  printParseErrorCode(error)
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .toLowerCase();
