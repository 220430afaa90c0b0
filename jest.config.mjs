import { availableParallelism } from 'node:os';
import { BUILT_IN } from './scripts/builtIn.mjs';

/** Unit tests stand beside the code. Packages are taken from their sources, so that nothing has to be built first. */
const common = {
  roots: ['<rootDir>/packages', '<rootDir>/apps'],
  cacheDirectory: '<rootDir>/node_modules/.cache/jest',
  globalSetup: '<rootDir>/scripts/jestSetup.mjs',
  modulePathIgnorePatterns: ['/dist/'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  sandboxInjectedGlobals: BUILT_IN,
  moduleNameMapper: {
    '^@anchorbeat/(core|formats|contract|audio|drawing|sheets)$': '<rootDir>/packages/$1/src/index.ts',
    '^@jest/globals, quickly$': '<rootDir>/scripts/quickExpect.mjs',
    // What Vite gives as an address.
    '(\\.worklet\\.ts|\\.css|\\.woff)(\\?.*)?$': '<rootDir>/apps/web/src/test/address.ts',
  },
  transform: { '\\.ts$': compiledBy({ tsx: false }), '\\.tsx$': compiledBy({ tsx: true }) },
};

export default {
  // One more than there are cores: now and then one waits for a server or for a time to be over.
  maxWorkers: availableParallelism() + 1,
  testTimeout: 180_000,
  // What tests leave behind in a worker slows those that come after: a new one is begun instead.
  workerIdleMemoryLimit: '700MB',
  projects: [
    { ...common, displayName: 'core to server', testEnvironment: 'node', testMatch: ['**/src/**/*.test.ts'] },
    {
      ...common,
      displayName: 'screens',
      testEnvironment: '<rootDir>/scripts/pageEnvironment.mjs',
      setupFilesAfterEnv: ['<rootDir>/scripts/quickElements.mjs'],
      testMatch: ['**/src/**/*.test.tsx'],
    },
  ],
};

function compiledBy({ tsx }) {
  return [
    '<rootDir>/scripts/testTransform.mjs',
    {
      jsc: {
        target: 'es2022',
        parser: { syntax: 'typescript', decorators: true, tsx },
        transform: {
          legacyDecorator: true,
          decoratorMetadata: true,
          useDefineForClassFields: false,
          react: { runtime: 'automatic' },
        },
      },
      module: { type: 'es6' },
    },
  ];
}
