/** Jest runs the TypeScript sources as native ES modules; swc only strips the types. */
export default {
  testEnvironment: 'node',
  roots: ['<rootDir>/tests'],
  extensionsToTreatAsEsm: ['.ts'],
  transform: {
    '^.+\\.ts$': [
      '@swc/jest',
      { jsc: { target: 'es2023', parser: { syntax: 'typescript' } }, module: { type: 'es6' } },
    ],
  },
  testTimeout: 60_000,
  maxWorkers: 2,
};
