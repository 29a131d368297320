import js from '@eslint/js'
import pluginVue from 'eslint-plugin-vue'
import globals from 'globals'
import tseslint from 'typescript-eslint'

/** The rules of the house: imports run one way (see README, "How the code is laid out"). */
const OUTSIDE_CORE = ['vue', 'vue-router', 'pinia', 'nuxt', '#*', 'h3', 'ofetch', 'nitropack*', 'node:*', 'element-plus', 'drizzle-orm*', '@electric-sql/*', 'pg', '**/server/**', '**/app/**', '**/demo/**', '~', '~/*', '~~/*']
const floor = (files, barred) => ({
  files,
  ignores: ['**/*.test.ts'],
  rules: {
    'no-restricted-imports': ['error', {
      patterns: [
        { group: OUTSIDE_CORE, message: 'core imports nothing outside itself but pure packages.' },
        ...barred.length > 0 ? [{ group: barred.flatMap(name => [`../${name}/**`, `../../${name}/**`, `../../../${name}/**`]), message: 'Inside core imports run one way: document and audio < figures < search < kit and groove < render, formats, fit.' }] : [],
      ],
    }],
  },
})

/** The areas of the page, beside each other: what one has for the others is in its `index.ts`. */
const AREAS = ['library', 'tray', 'bench', 'grooves', 'fit', 'vault']
const above = name => ['./', '../', '../../', '../../../'].map(up => `${up}${name}`)
const appFloor = (files, barred, byIndex) => ({
  files,
  ignores: ['**/*.test.ts', '**/*.worker.ts'],
  rules: {
    'no-restricted-imports': ['error', {
      patterns: [
        { group: ['~~/server/**', '**/server/**'], message: 'The page and the server meet in contract/ alone.' },
        ...barred.length > 0 ? [{ group: barred.flatMap(above), message: 'In the page imports run one way: parts < sound < areas < shell.' }] : [],
        ...byIndex.length > 0 ? [{ group: byIndex.flatMap(name => above(`${name}/*`)), message: 'What an area has for others is in its index.ts.' }] : [],
      ],
    }],
  },
})

/** The floors of the server, from the lowest: each folder imports from those below its own alone. */
const SERVER_FLOORS = [['base'], ['db'], ['jobs'], ['kits', 'patterns', 'library'], ['vault'], ['bounce'], ['fit'], ['demo'], ['studio'], ['api', 'plugins', 'workers']]
const serverFloor = (folder, barred) => ({
  files: [`server/${folder}/**`],
  ignores: ['**/*.test.ts'],
  rules: {
    'no-restricted-imports': ['error', {
      paths: [{ name: 'h3', importNames: ['sendStream', 'createEventStream'], message: 'They may never answer: see server/studio/streamed.ts.' }],
      patterns: [
        ...barred.length > 0 ? [{ group: barred.flatMap(name => ['../', '../../', '../../../', '../../../../', '../../../../../'].map(up => `${up}${name}/**`)), message: 'In the server imports run one way: base < db < jobs < areas < studio < api.' }] : [],
        { group: ['**/app/**', '~~/*', 'vue', 'element-plus'], message: 'The page and the server meet in contract/ alone.' },
      ],
    }],
  },
})

export default tseslint.config(
  { ignores: ['.nuxt', '.output', 'dist', 'node_modules', '.data', 'test-results', 'playwright-report', 'server/db/migrations'] },
  { linterOptions: { noInlineConfig: true, reportUnusedDisableDirectives: 'error' } },
  js.configs.recommended,
  ...tseslint.configs.strict,
  ...tseslint.configs.stylistic,
  ...pluginVue.configs['flat/recommended'],
  {
    files: ['**/*.{ts,vue,mjs}'],
    languageOptions: { parserOptions: { parser: tseslint.parser }, globals: { ...globals.browser, ...globals.node } },
    rules: {
      'no-undef': 'off',
      'no-restricted-globals': ['error', 'event', 'name'],
      'eqeqeq': 'error',
      'no-console': ['error', { allow: ['log', 'error'] }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/consistent-type-definitions': 'off',
      '@typescript-eslint/no-extraneous-class': 'off',
      'vue/multi-word-component-names': 'off',
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/html-self-closing': ['error', { html: { void: 'never', normal: 'always', component: 'always' }, svg: 'always' }],
      'vue/require-default-prop': 'off',
    },
  },
  ...SERVER_FLOORS.flatMap((floorFolders, level) => floorFolders.map(folder => serverFloor(folder, SERVER_FLOORS.slice(level).flat().filter(other => other !== folder)))),
  appFloor(['app/**'], [], []),
  appFloor(['app/parts/**'], [...AREAS, 'sound', 'shell'], []),
  appFloor(['app/sound/**'], [...AREAS, 'shell'], []),
  ...AREAS.map(area => appFloor([`app/${area}/**`], ['shell'], [...AREAS.filter(other => other !== area), 'sound'])),
  appFloor(['app/shell/**', 'app/app.vue'], [], [...AREAS, 'sound']),
  {
    files: ['contract/**'],
    rules: { 'no-restricted-imports': ['error', { patterns: [{ group: ['**/server/**', '**/app/**', '~~/*', 'vue', 'nuxt', '#*', 'h3', 'drizzle-orm*', 'pg', 'node:*'], message: 'contract imports core and Zod alone.' }] }] },
  },
  floor(['core/document/**'], ['audio', 'search', 'kit', 'groove', 'render', 'formats', 'fit']),
  floor(['core/audio/**'], ['figures', 'search', 'kit', 'groove', 'render', 'formats', 'fit']),
  floor(['core/figures/**'], ['search', 'kit', 'groove', 'render', 'formats', 'fit']),
  floor(['core/search/**'], ['kit', 'groove', 'render', 'formats', 'fit']),
  floor(['core/kit/**', 'core/groove/**'], ['render', 'formats', 'fit']),
  floor(['core/render/**'], ['formats', 'fit']),
  floor(['core/formats/**', 'core/fit/**', 'core/*.ts'], []),
)
