/** Unit tests stand beside the code. Packages are taken from their sources, so that nothing has to be built first. */
export default {
  roots: ['<rootDir>/packages', '<rootDir>/apps'],
  globalSetup: '<rootDir>/scripts/jestSetup.mjs',
  testMatch: ['**/src/**/*.test.ts'],
  modulePathIgnorePatterns: ['/dist/'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  testTimeout: 60_000,
  // As many as there are cores; by itself it leaves one to whoever watches.
  maxWorkers: '100%',
  testEnvironment: 'node',
  moduleNameMapper: {
    '^@anchorbeat/(core|formats|contract|audio|drawing|sheets)$': '<rootDir>/packages/$1/src/index.ts',
  },
  transform: {
    '\\.tsx?$': [
      '@swc/jest',
      {
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', decorators: true, tsx: false },
          transform: { legacyDecorator: true, decoratorMetadata: true, useDefineForClassFields: false },
        },
        module: { type: 'es6' },
      },
    ],
  },
};
