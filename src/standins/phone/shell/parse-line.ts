/** The platform's small shell, as far as people use it over the bridge: quoting, pipes, `;`, `&&`, `||`, redirection. */
export interface SimpleCommand {
  words: string[];
  readsFrom?: string;
  writesTo?: { path: string; appends: boolean };
  /** `2>&1`, or `2>/dev/null`. */
  errors?: 'to-output' | 'dropped';
}

/** Commands joined by pipes; `when` says on which exit code of the one before it runs. */
export interface Pipeline {
  when: 'always' | 'success' | 'failure';
  commands: SimpleCommand[];
}

/** A line that the shell cannot read. */
export class SyntaxTrouble extends Error {}

type Token = { kind: 'word'; text: string } | { kind: 'operator'; text: string };

const OPERATORS = ['2>&1', '2>', '&&', '||', '>>', '|', ';', '>', '<', '&', '\n'];

/** @throws SyntaxTrouble */
export function parseLine(line: string, variables: ReadonlyMap<string, string>): Pipeline[] {
  const pipelines: Pipeline[] = [];
  let when: Pipeline['when'] = 'always';
  let pipeline: Pipeline = { when, commands: [] };
  let command: SimpleCommand = { words: [] };
  const endCommand = (needed: boolean, before: string) => {
    const isEmpty = command.words.length === 0;
    if (isEmpty && needed) throw new SyntaxTrouble(`syntax error: unexpected '${before}'`);
    if (!isEmpty) pipeline.commands.push(command);
    command = { words: [] };
  };
  const endPipeline = (needed: boolean, before: string) => {
    endCommand(needed || pipeline.commands.length > 0, before);
    if (pipeline.commands.length > 0) pipelines.push(pipeline);
  };
  const tokens = tokenize(line, variables);
  for (let i = 0; i < tokens.length; i++) {
    const token = tokens[i]!;
    if (token.kind === 'word') {
      command.words.push(token.text);
      continue;
    }
    const next = tokens[i + 1];
    const file = (): string => {
      if (next?.kind !== 'word')
        throw new SyntaxTrouble(`syntax error: unexpected '${next?.text ?? 'newline'}'`);
      i += 1;
      return next.text;
    };
    if (token.text === '|') endCommand(true, '|');
    else if (token.text === '>' || token.text === '>>')
      command.writesTo = { path: file(), appends: token.text === '>>' };
    else if (token.text === '<') command.readsFrom = file();
    else if (token.text === '2>&1') command.errors = 'to-output';
    else if (token.text === '2>') {
      file();
      command.errors = 'dropped';
    } else {
      const joins = token.text === '&&' || token.text === '||';
      endPipeline(joins, token.text);
      when = joins ? (token.text === '&&' ? 'success' : 'failure') : 'always';
      pipeline = { when, commands: [] };
    }
  }
  endPipeline(when !== 'always', 'newline');
  return pipelines;
}

function tokenize(line: string, variables: ReadonlyMap<string, string>): Token[] {
  const tokens: Token[] = [];
  let word: string | undefined;
  let i = 0;
  const endWord = () => {
    if (word !== undefined) tokens.push({ kind: 'word', text: word });
    word = undefined;
  };
  while (i < line.length) {
    const char = line[i]!;
    if (char === "'") {
      const end = line.indexOf("'", i + 1);
      if (end < 0) throw new SyntaxTrouble('no closing quote');
      word = (word ?? '') + line.slice(i + 1, end);
      i = end + 1;
    } else if (char === '"') {
      const { end, text } = doubleQuoted(line, i + 1, variables);
      word = (word ?? '') + text;
      i = end;
    } else if (char === '\\') {
      word = (word ?? '') + (line[i + 1] ?? '');
      i += 2;
    } else if (char === '$' && VARIABLE.test(line.slice(i))) {
      const name = VARIABLE.exec(line.slice(i))![1]!;
      word = (word ?? '') + (variables.get(name) ?? '');
      i += name.length + 1;
    } else if (char === ' ' || char === '\t') {
      endWord();
      i += 1;
    } else if (char === '#' && word === undefined) {
      i = line.includes('\n', i) ? line.indexOf('\n', i) : line.length;
    } else {
      const operator = operatorAt(line, i, word);
      if (operator) {
        endWord();
        tokens.push({ kind: 'operator', text: operator === '\n' ? ';' : operator });
        i += operator.length;
      } else {
        word = (word ?? '') + char;
        i += 1;
      }
    }
  }
  endWord();
  return tokens;
}

const VARIABLE = /^\$([A-Za-z_]\w*|\?)/;

// a digit before `>` is a file descriptor only where it stands alone
const operatorAt = (line: string, i: number, word: string | undefined): string | undefined =>
  OPERATORS.find(
    (operator) => line.startsWith(operator, i) && !(operator.startsWith('2') && word !== undefined),
  );

function doubleQuoted(
  line: string,
  start: number,
  variables: ReadonlyMap<string, string>,
): { text: string; end: number } {
  let text = '';
  for (let i = start; i < line.length; i++) {
    const char = line[i]!;
    if (char === '"') return { text, end: i + 1 };
    const variable = char === '$' ? VARIABLE.exec(line.slice(i)) : null;
    if (variable) {
      text += variables.get(variable[1]!) ?? '';
      i += variable[1]!.length;
    } else if (char === '\\' && /["\\$`]/.test(line[i + 1] ?? '')) text += line[++i];
    else text += char;
  }
  throw new SyntaxTrouble('no closing quote');
}
