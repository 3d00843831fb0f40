import { availableParallelism } from 'node:os';

/** Jest runs the TypeScript sources as native ES modules; swc only strips the types. */
export default {
  testEnvironment: 'node',
  roots: ['<rootDir>/tests'],
  extensionsToTreatAsEsm: ['.ts'],
  // as the examples know the library
  moduleNameMapper: {
    '^fenlok$': '<rootDir>/src/core/index.ts',
    '^fenlok/standins/models$': '<rootDir>/src/standins/models.ts',
  },
  transform: {
    '^.+\\.ts$': [
      '<rootDir>/tests/support/transform.mjs',
      { jsc: { target: 'es2023', parser: { syntax: 'typescript' } }, module: { type: 'es6' } },
    ],
  },
  testSequencer: '<rootDir>/tests/support/slow-first.mjs',
  // a bound for what hangs, not a measure: other work on the machine may slow a test down ten times
  testTimeout: 900_000,
  // one more than there are cores: the suites that drive a phone wait for it most of the time
  maxWorkers: Math.min(8, availableParallelism() + 1),
};
