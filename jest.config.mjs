const project = (name, extra = {}) => ({
  displayName: name,
  rootDir: `<rootDir>/${name}`,
  testMatch: ['<rootDir>/**/*.test.ts'],
  testPathIgnorePatterns: ['/node_modules/', '/dist/'],
  extensionsToTreatAsEsm: ['.ts'],
  transform: {
    '^.+\\.ts$': [
      '<rootDir>/../scripts/transform.mjs',
      {
        jsc: { parser: { syntax: 'typescript' }, target: 'es2022' },
        module: { type: 'es6' },
        sourceMaps: 'inline',
      },
    ],
  },
  ...extra,
})

export default {
  // A cold machine makes its first tables and transforms within one hook.
  testTimeout: 60_000,
  projects: [
    project('contract'),
    project('core', { setupFiles: ['<rootDir>/test/seed.ts'] }),
    project('server', {
      globalSetup: '<rootDir>/test/database.mjs',
      globalTeardown: '<rootDir>/test/databaseEnd.mjs',
    }),
    project('web'),
  ],
}
