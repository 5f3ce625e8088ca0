/** Unit tests: the core, the command line and the app's own logic, in plain Node. */
export default {
  testMatch: ['<rootDir>/{core,sound,app,cli,server,demo,bench,scripts}/**/*.test.{ts,tsx}'],
  testEnvironment: '<rootDir>/scripts/jestEnvironment.mjs',
  // On two cores as many as there are, not one fewer.
  maxWorkers: '100%',
  moduleNameMapper: {
    '^@ordle/core$': '<rootDir>/core/index.ts',
    '^@ordle/core/(.*)$': '<rootDir>/core/$1/index.ts',
    '^@ordle/sound$': '<rootDir>/sound/index.ts',
    '^@/(.*)$': '<rootDir>/app/$1',
  },
  transform: {
    '^.+\\.(t|j)sx?$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          target: 'es2022',
          transform: { react: { runtime: 'automatic' } },
        },
        module: { type: 'commonjs' },
      },
    ],
  },
  transformIgnorePatterns: [
    '/node_modules/(?!(spessasynth_core|stb-vorbis|tonal|@tonaljs|idb|midifile-ts|@noble)/)',
  ],
  modulePathIgnorePatterns: ['/dist/'],
};
