/** What is wrong with an input, in the parts that a person needs to fix it. */
export interface Problem {
  /** Stable, for programs: `zip.truncated`, `intent.unknown-key`. */
  code: string;
  /** The input, as the caller named it. */
  file?: string;
  /** Place within it: a line, a byte offset, an entry name. */
  place?: string;
  found: string;
  expected?: string;
  remedy?: string;
}

export type Result<T> = { ok: true; value: T } | { ok: false; problem: Problem };

/** Thrown inside the readers, and turned into a `Result` where a reader's public function ends. */
export class UnreadableError extends Error {
  readonly problem: Problem;
  constructor(problem: Problem, options?: ErrorOptions) {
    super(formatProblem(problem), options);
    this.name = 'UnreadableError';
    this.problem = problem;
  }
}

/** Runs a reader; an `UnreadableError` becomes a problem, anything else is a defect of ours and is thrown. */
export async function attempt<T>(file: string, read: () => T | Promise<T>): Promise<Result<T>> {
  try {
    return { ok: true, value: await read() };
  } catch (error) {
    if (error instanceof UnreadableError) return { ok: false, problem: { file, ...error.problem } };
    throw error;
  }
}

/** A part that cannot be read is noted, and the rest is read on. */
export async function tryRead<T>(unread: Problem[], read: () => T | Promise<T>): Promise<T | undefined> {
  try {
    return await read();
  } catch (error) {
    if (!(error instanceof UnreadableError)) throw error;
    unread.push(error.problem);
    return undefined;
  }
}

/** The value of a result, or its problem thrown as an `UnreadableError`. */
export function unwrap<T>(result: Result<T>): T {
  if (result.ok) return result.value;
  throw new UnreadableError(result.problem);
}

/** One sentence for people: file and place, what was found, what was expected, what to do. */
export function formatProblem(problem: Problem): string {
  const where = [problem.file, problem.place].filter(Boolean).join(', ');
  const expected = problem.expected ? `; expected ${problem.expected}` : '';
  const remedy = problem.remedy ? `. ${problem.remedy}` : '';
  return `${where ? `${where}: ` : ''}${problem.found}${expected}${remedy}`;
}
