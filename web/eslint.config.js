import boundaries from 'eslint-plugin-boundaries'
import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'

/** Rooms of the page, lowest first: each may use those below it. Features do not know each other; the bench puts them together. */
const LAYERS = ['api', 'shared', 'model', 'stores', 'text', 'fields']
const FEATURES = ['board', 'catalogue', 'dials', 'ledger', 'people', 'script', 'view']

const rooms = [...LAYERS, ...FEATURES, 'bench', 'notebook', 'testing']
const below = (names, own) => ({
  from: { element: { type: own } },
  allow: { to: { element: { type: [...names, ...own] } } },
})

export default tseslint.config(
  { ignores: ['dist', 'src/api/schema.d.ts'] },
  ...tseslint.configs.recommendedTypeChecked,
  ...vue.configs['flat/essential'],
  {
    languageOptions: {
      parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname, extraFileExtensions: ['.vue'] },
    },
  },
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: tseslint.parser } } },
  { rules: { 'vue/multi-word-component-names': 'off' } },
  // Controls are Element Plus's, in one theme; a control of our own stands in `shared/` and says why.
  {
    files: ['src/**/*.vue'],
    ignores: ['src/shared/**'],
    rules: {
      'vue/no-restricted-html-elements': [
        'error',
        ...['button', 'input', 'select', 'textarea', 'table', 'progress', 'meter', 'details', 'dialog'].map(
          (element) => ({
            element,
            message: 'Take the control of Element Plus, or one from shared/controls.',
          }),
        ),
      ],
    },
  },
  // What composables return are plain functions in an object: none of them knows `this`.
  { rules: { '@typescript-eslint/unbound-method': 'off' } },
  // A function may be async only to give a promise.
  { rules: { '@typescript-eslint/require-await': 'off' } },
  {
    files: ['src/**/*.{ts,vue}'],
    ignores: ['src/**/*.test.ts'],
    plugins: { boundaries },
    settings: {
      'import/resolver': { typescript: true },
      'boundaries/elements': rooms.map((type) => ({ type, pattern: `src/${type}` })),
    },
    rules: {
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          message: '{{from.type}} may not use {{to.type}}: see the layers in eslint.config.js',
          policies: [
            ...LAYERS.map((layer, i) => below(LAYERS.slice(0, i), [layer])),
            ...FEATURES.map((feature) => below(LAYERS, [feature])),
            below([...LAYERS, ...FEATURES], ['bench']),
            below([...LAYERS, ...FEATURES], ['notebook']),
            below(rooms, ['testing']),
          ],
        },
      ],
    },
  },
)
