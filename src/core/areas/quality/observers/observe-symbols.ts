import type { SymbolsFact } from '../../../model/facts/quality.ts';
import type { SymbolsObserver } from '../../observer.ts';

/** A mapping file or a dSYM, by the build that it says it is of. */
export const observeSymbols = {
  id: 'symbols',
  reads: 'symbols',
  *observe({ digest, name, platform, symbols }) {
    yield { kind: 'symbols', platform, evidence: digest, file: name, ...symbols } satisfies SymbolsFact;
  },
} satisfies SymbolsObserver;
