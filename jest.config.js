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
      '@swc/jest',
      { jsc: { target: 'es2023', parser: { syntax: 'typescript' } }, module: { type: 'es6' } },
    ],
  },
  testSequencer: '<rootDir>/tests/support/slow-first.mjs',
  testTimeout: 60_000,
  maxWorkers: 2,
};
