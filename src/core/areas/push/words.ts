import { type AreaWords, quote } from '../words.ts';

export const pushWords: AreaWords = {
  'push-environment': ({ environment }) => ({
    what: 'The app is signed for the development push environment',
    measured: `aps-environment ${quote(String(environment))}`,
    required: '“production”',
    why: 'Its tokens are good for the development gateway only: the production gateway refuses them, and nobody gets a message.',
    remedy: 'Export the archive for distribution, with a profile whose aps-environment is production.',
  }),
};
