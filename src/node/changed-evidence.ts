import { UnreadableError } from '../core/model/problem.ts';

/** Of what was taken in: it is not what it was. */
export const changedEvidence = (file: string): UnreadableError =>
  new UnreadableError({
    code: 'dossier.changed',
    file,
    found: 'a file of the dossier that was damaged, or changed by hand',
    expected: 'what was taken in, whose digest is kept with it',
    remedy: 'Put it back as it was, or remove it and add it again.',
  });
