import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import globals from 'globals'
import tseslint from 'typescript-eslint'

/** The arrows of docs/architecture.md: web -> core, contract; server -> core, contract; core -> contract for types. */
const arrow = (files, patterns) => ({
  files,
  ignores: ['**/*.test.ts', '**/test/**'],
  rules: { '@typescript-eslint/no-restricted-imports': ['error', { patterns }] },
})
const never = (group, message) => ({ group, message })
const typesOnly = (group, message) => ({ group, message, allowTypeImports: true })

export default tseslint.config(
  {
    ignores: [
      '**/dist/**',
      '**/node_modules/**',
      '.data/**',
      'test-results/**',
      'playwright-report/**',
      '.shots/**',
    ],
  },
  ...tseslint.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    languageOptions: { globals: { ...globals.node, ...globals.browser, ...globals.jest } },
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      eqeqeq: 'error',
    },
  },
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: tseslint.parser } },
    rules: { 'vue/multi-word-component-names': 'off' },
  },
  {
    ignores: ['**/*.test.ts', '**/test/**', 'e2e/**', 'bench/**'],
    rules: { 'max-lines-per-function': ['error', { max: 80 }] },
  },
  arrow(['contract/src/**/*.ts'], [never(['@climber/*', '../../*', 'node:*'], 'contract leans on nothing')]),
  arrow(
    ['core/src/**/*.ts'],
    [
      typesOnly(['@climber/contract'], 'core takes only types from contract'),
      never(
        ['@climber/server', '@climber/web', 'node:*', 'vue', 'express', 'sequelize', 'd3'],
        'core is pure',
      ),
    ],
  ),
  arrow(
    ['server/src/**/*.ts'],
    [never(['@climber/web', '**/web/**', 'vue'], 'server does not know the web app')],
  ),
  arrow(
    ['server/src/routes/**/*.ts'],
    [never(['sequelize', '@climber/web'], 'a route holds no logic: call a service')],
  ),
  arrow(['server/src/services/**/*.ts'], [never(['express', '@climber/web'], 'a service knows no HTTP')]),
  arrow(
    ['web/src/**/*.ts', 'web/src/**/*.vue'],
    [never(['@climber/server', '**/server/**', 'node:*'], 'web talks to the server through the contract')],
  ),
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        ...[
          'exp',
          'log',
          'log2',
          'log10',
          'log1p',
          'expm1',
          'pow',
          'hypot',
          'cbrt',
          'sin',
          'cos',
          'tan',
          'random',
        ].map((property) => ({
          object: 'Math',
          property,
          message: 'engines differ here: use exact/functions.ts',
        })),
      ],
      'no-restricted-syntax': [
        'error',
        { selector: "BinaryExpression[operator='**']", message: 'engines differ here: multiply' },
      ],
    },
  },
  prettier,
)
