/** Swift that nobody here can compile: parsed with a grammar. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import Parser from 'web-tree-sitter';

const require = createRequire(import.meta.url);

export interface SwiftSource {
  text: string;
  tree: Parser.Tree;
  nodesOf(type: string): Parser.SyntaxNode[];
  /** What the grammar could not make out. */
  errors(): string[];
}

export async function parseSwift(file: string): Promise<SwiftSource> {
  await Parser.init();
  const parser = new Parser();
  parser.setLanguage(
    await Parser.Language.load(require.resolve('tree-sitter-wasms/out/tree-sitter-swift.wasm')),
  );
  const text = readFileSync(file, 'utf8');
  const tree = parser.parse(text);
  const all = [...walk(tree.rootNode)];
  const nodesOf = (wanted: string) => all.filter(({ type }) => type === wanted);
  return { text, tree, nodesOf, errors: () => nodesOf('ERROR').map((node) => node.text) };
}

function* walk(node: Parser.SyntaxNode): Generator<Parser.SyntaxNode> {
  yield node;
  for (const child of node.namedChildren) yield* walk(child);
}
