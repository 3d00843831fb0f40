export const lastName = (name: unknown): string => String(name).replace(/^.*[./]/, '');

/** `b.a.onCreate, line 14`: names of one or two letters, as a shrinker gives them. */
const RENAMED = /^(?:[a-z]\w?\.){1,4}[\w<>$]+(?:, line \d+)?$/i;

/** What to do about a frame that no person has named; empty for the others. */
export const hintOfNames = (frame: string): string =>
  RENAMED.test(frame)
    ? " Its names are the shrinker's: add the mapping file of this build, fenlok add mapping.txt."
    : '';
