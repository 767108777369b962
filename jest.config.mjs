export default {
  testEnvironment: 'node',
  // Some tests wait for processes of their own, beside all others: the default of 5 s is for an idle machine.
  testTimeout: 90_000,
  roots: ['<rootDir>/packages', '<rootDir>/apps'],
  testPathIgnorePatterns: ['/node_modules/', '/dist/'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: {
    '^.+\\.tsx?$': [
      '<rootDir>/scripts/jest-transform.mjs',
      {
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', tsx: true, decorators: true },
          transform: { legacyDecorator: true, decoratorMetadata: true, react: { runtime: 'automatic' } },
        },
        module: { type: 'es6' },
      },
    ],
  },
  setupFiles: ['<rootDir>/scripts/jest-setup.mjs'],
  moduleNameMapper: { '^fast-check$': '<rootDir>/scripts/fast-check.mjs', '\\.css$': '<rootDir>/scripts/css-stub.mjs' },
};
