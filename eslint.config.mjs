import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

/** Doors lead one way (docs/architecture.md); each rule says which rooms a room may not enter. */
const doors = (files, ...groups) => ({
  files,
  rules: { 'no-restricted-imports': ['error', { patterns: groups.map(([group, message]) => ({ group, message })) }] },
})
const NO_APP = [['**/app/**', '~/*'], 'Only the app itself may use the app.']
const NO_SERVER = [
  ['**/server/services/**', '**/server/db/**', '**/server/places/**', '**/server/consoles/**'],
  'The app speaks to the server over HTTP; types come through app/utils/types.ts.',
]
const PURE = [
  ['vue', 'nuxt', 'nuxt/*', '#*', 'node:*', 'fs', 'path', 'knex', 'h3', 'pinia'],
  'The core is pure: no interface, no files, no network.',
]

// what is peculiar to a format is known in its folder, and asked for as one of its traits (docs/extending.md)
const ASK_THE_FORMAT = 'Ask for a trait or part of the format (formats/format.ts); only formats/<id>/ knows which one it is.'
const format = ":matches(MemberExpression[property.name='format'], Identifier[name='format'])"
const noFormatLiterals = [
  `BinaryExpression:has(> ${format}):has(> Literal[value=/^[a-z]+$/])`,
  `SwitchStatement > ${format}.discriminant`,
  "CallExpression[callee.name='parse'] > Literal.arguments:nth-child(2)",
].map((selector) => ({ selector, message: ASK_THE_FORMAT }))

export default ts.config(
  { ignores: ['**/dist/**', '.output/**', '.nuxt/**', '.demo/**', 'node_modules/**', '**/node_modules/**', 'bench/results/**'] },
  ...ts.configs.recommended,
  ...vue.configs['flat/essential'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: ts.parser } } },
  {
    rules: {
      'no-undef': 'off',
      'no-console': 'error',
      'no-constant-condition': ['error', { checkLoops: false }],
      'prefer-const': 'error',
      eqeqeq: 'error',
      'max-lines': ['error', { max: 320, skipBlankLines: true }],
      'no-control-regex': 'off',
      'no-self-compare': 'off',
      'vue/multi-word-component-names': 'off',
      'vue/max-template-depth': ['error', { maxDepth: 9 }],
      'vue/max-lines-per-block': ['error', { script: 170, template: 130, style: 130, skipBlankLines: true }],
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-unused-expressions': ['error', { allowTernary: true }],
    },
  },
  doors(['packages/core/src/**'], PURE, NO_APP, [
    ['**/server/**', '**/packages/**', '@pasticcio/*'],
    'The core depends on nothing of ours.',
  ]),
  doors(['packages/cli/src/**'], NO_APP, [['**/server/**', '@pasticcio/standin*'], 'The command line uses the core only.']),
  doors(['packages/standin/src/**'], NO_APP, [
    ['**/server/services/**', '**/server/db/**', '@pasticcio/core', '@pasticcio/cli'],
    'The stand-ins use nothing of ours.',
  ]),
  doors(['packages/check/src/**'], NO_APP, [
    ['**/server/**', '@pasticcio/standin*', '@pasticcio/cli', '@pasticcio/unpack'],
    'Checking uses the core only.',
  ]),
  doors(['packages/unpack/src/**'], NO_APP, [
    ['**/server/**', '@pasticcio/standin*', '@pasticcio/cli'],
    'Opening archives uses the core only.',
  ]),
  doors(['server/**'], NO_APP, [['@pasticcio/standin*', '@pasticcio/cli'], 'The server knows no stand-in.']),
  doors(['server/api/**'], [['knex', '**/db/connection', '**/places/**'], 'Routes call services.']),
  doors(
    ['server/places/**', 'server/consoles/**', 'server/db/**'],
    [['**/services/**', '**/api/**', 'h3'], 'Places, consoles and the database know nothing of what they are used for.'],
  ),
  doors(['server/services/**'], [['**/api/**', 'h3'], 'Services know nothing of HTTP.']),
  doors(['app/pages/**', 'app/components/**', 'app/stores/**', 'app/composables/**'], NO_SERVER),
  // readers of whole languages, and what works on all of their trees
  { files: ['packages/core/src/{formats,carry}/**'], rules: { 'max-lines': ['error', { max: 450, skipBlankLines: true }] } },
  {
    files: ['packages/core/src/formats/{yaml,lua,json,xml}/parse.ts', 'packages/core/src/formats/operations.ts'],
    rules: { 'max-lines': 'off' },
  },
  { files: ['**/tests/**'], rules: { 'max-lines': ['error', { max: 530, skipBlankLines: true }] } },
  {
    files: ['packages/core/src/**', 'packages/cli/src/**', 'server/**', 'app/**'],
    ignores: ['packages/core/src/formats/*/**'],
    rules: { 'no-restricted-syntax': ['error', ...noFormatLiterals] },
  },
  { files: ['scripts/**', '**/*.mjs'], rules: { 'no-undef': 'off' } },
)
