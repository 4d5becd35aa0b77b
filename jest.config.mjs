const typescript = {
  jsc: { parser: { syntax: 'typescript' }, target: 'es2022' },
  module: { type: 'es6' },
  sourceMaps: 'inline',
}

const project = (name, extra = {}) => ({
  displayName: name,
  rootDir: `<rootDir>/${name}`,
  testMatch: ['<rootDir>/**/*.test.ts'],
  testPathIgnorePatterns: ['/node_modules/', '/dist/'],
  extensionsToTreatAsEsm: ['.ts'],
  transform: {
    '^.+\\.ts$': ['<rootDir>/../scripts/transform.mjs', typescript],
    '^.+\\.vue$': ['<rootDir>/../scripts/vueTransform.mjs', typescript],
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
    project('web', { testMatch: ['<rootDir>/test/*.test.ts'] }),
    project('web', {
      displayName: 'components',
      testMatch: ['<rootDir>/test/components/*.test.ts'],
      testEnvironment: 'jsdom',
      // As in the browser, and not what a bundler or Node would take.
      testEnvironmentOptions: { customExportConditions: ['browser'] },
      extensionsToTreatAsEsm: ['.ts', '.vue'],
      moduleFileExtensions: ['ts', 'js', 'mjs', 'json', 'vue'],
      moduleNameMapper: { '\\.css$': '<rootDir>/test/components/noStyle.ts' },
      setupFiles: ['<rootDir>/test/components/browser.ts'],
    }),
  ],
}
