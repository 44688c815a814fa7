// @ts-check
import withNuxt from './.nuxt/eslint.config.mjs'

/** Nuxt's rules with the house's style: braces on one line, short members of a type divided by commas, no `any`. */
export default withNuxt({
  rules: {
    // Several members a line are divided by commas; one a line by the line's end.
    '@stylistic/member-delimiter-style': 'off',
    '@stylistic/brace-style': ['error', '1tbs', { allowSingleLine: true }],
    '@stylistic/operator-linebreak': ['error', 'before', { overrides: { '=': 'after' } }],
    '@stylistic/max-statements-per-line': ['error', { max: 2 }],
    '@stylistic/multiline-ternary': 'off',
    'vue/no-multiple-template-root': 'off',
    'vue/singleline-html-element-content-newline': 'off',
    'vue/multiline-html-element-content-newline': 'off',
    '@typescript-eslint/no-explicit-any': 'error',
    '@typescript-eslint/no-non-null-assertion': 'error',
  },
}, {
  // Typed arrays of one length are read within it, in loops that a check at every step would slow down and hide.
  files: ['core/allocation/**', 'core/imaging/**', 'core/documents/**', 'bench/allocation-instances.ts', 'bench/train-letters.ts'],
  rules: { '@typescript-eslint/no-non-null-assertion': 'off' },
}, {
  // Nuxt leaves out every folder of this name; these are programs.
  ignores: ['!server/public', '!server/public/**'],
})
