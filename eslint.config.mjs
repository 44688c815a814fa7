// @ts-check
import withNuxt from './.nuxt/eslint.config.mjs'

/** A line that holds a long text, or an expression of letters, cannot be broken. */
const longest = { code: 140, ignoreStrings: true, ignoreTemplateLiterals: true, ignoreRegExpLiterals: true, ignoreUrls: true }

/** What `npm run format` lays out is not judged a second time. */
const laidOut = [
  'arrow-parens',
  'block-spacing',
  'brace-style',
  'comma-dangle',
  'generator-star-spacing',
  'indent',
  'indent-binary-ops',
  'keyword-spacing',
  'member-delimiter-style',
  'multiline-ternary',
  'no-multi-spaces',
  'operator-linebreak',
  'quotes',
  'semi-spacing',
  'space-before-function-paren',
]

/** Nuxt's rules, and those of the house: lines that can be read, and no `any`. */
export default withNuxt({
  rules: {
    ...Object.fromEntries(laidOut.map(rule => [`@stylistic/${rule}`, 'off'])),
    '@stylistic/max-statements-per-line': ['error', { max: 2 }],
    'vue/no-multiple-template-root': 'off',
    'vue/singleline-html-element-content-newline': 'off',
    'vue/multiline-html-element-content-newline': 'off',
    '@typescript-eslint/no-explicit-any': 'error',
    '@typescript-eslint/no-non-null-assertion': 'error',
  },
}, {
  files: ['**/*.ts', '**/*.mjs'],
  rules: { '@stylistic/max-len': ['error', longest] },
}, {
  files: ['**/*.ts', '**/*.mjs', '**/*.vue'],
  ignores: ['bench/**', 'demo/**', 'tests/**', '**/*.test.ts'],
  rules: { 'max-lines-per-function': ['error', { max: 60, skipBlankLines: true, skipComments: true }] },
}, {
  files: ['**/*.vue'],
  rules: { 'vue/max-len': ['error', { ...longest, template: longest.code }] },
}, {
  // Typed arrays of one length are read within it, in loops that a check at every step would slow down and hide.
  files: ['core/allocation/**', 'core/imaging/**', 'core/documents/**', 'bench/allocation-instances.ts', 'bench/train-letters.ts'],
  rules: { '@typescript-eslint/no-non-null-assertion': 'off' },
}, {
  // Nuxt leaves out every folder of this name; these are programs.
  ignores: ['!server/public', '!server/public/**'],
})
