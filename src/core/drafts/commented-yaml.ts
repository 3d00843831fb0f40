/** YAML with comments through the document API, so that nothing that stands in a package can become anything but a value or a comment. */
import { Document, isMap, isScalar, isSeq, type Node, visit } from 'yaml';

/** A line of comment; a question is marked by "?". */
export type Comment = { ask: string } | { note: string };

/** What a draft consists of, in its order. */
export type DraftLine =
  | Comment
  /** An empty line. */
  | 'gap'
  | DraftEntry;

interface DraftEntry {
  key: string;
  value: unknown;
  /** Of a map: below its values. */
  inside?: readonly Comment[];
  /** Of a list of maps: behind the first value of each. */
  behind?: readonly string[];
}

const commentOf = (comment: Comment): string => ('ask' in comment ? ` ? ${comment.ask}` : ` ${comment.note}`);

/** YAML text: lists of plain values on one line, of maps with a comment behind the first value of each. */
export function commentedYaml(lines: readonly DraftLine[]): string {
  const document = new Document({});
  let before: string[] = [];
  let isApart = false;
  for (const line of lines) {
    if (line === 'gap') {
      if (before.length > 0) before.push('');
      else isApart = true;
    } else if ('key' in line) {
      const key = document.createNode(line.key);
      if (before.length > 0) key.commentBefore = before.join('\n');
      key.spaceBefore = isApart;
      document.add(document.createPair(key, valueNode(document, line)));
      before = [];
      isApart = false;
    } else before.push(commentOf(line));
  }
  if (before.length > 0) document.comment = before.join('\n');
  return document.toString({ lineWidth: 0, flowCollectionPadding: false });
}

function valueNode(document: Document, { behind = [], inside = [], value }: DraftEntry): Node {
  const node = document.createNode(value) as Node;
  visit(node, {
    Seq: (_, list) => {
      list.flow = !list.items.some(isMap) || list !== node;
    },
  });
  if (isMap(node) && inside.length > 0) node.comment = inside.map(commentOf).join('\n');
  if (isSeq(node))
    for (const [i, note] of behind.entries()) {
      const first = node.getIn([i]);
      if (isMap(first) && isScalar(first.items[0]?.value)) first.items[0].value.comment = ` ${note}`;
    }
  return node;
}
