import { execFileSync } from 'node:child_process'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { createFromBuffer } from '@dprint/formatter'
import { getPath } from '@dprint/typescript'
import { root, say } from './lib/system.mjs'

/**
 * Lays out all programs in one way, `npm run format`; with `--check` it changes nothing and names the files that are laid out otherwise. Of
 * a component it is the script; the template is the lint's.
 */
const formatter = createFromBuffer(readFileSync(getPath()))
formatter.setConfig({ lineWidth: 140, indentWidth: 2, newLineKind: 'lf' }, {
  'semiColons': 'asi',
  'quoteStyle': 'preferSingle',
  'quoteProps': 'preserve',
  'useBraces': 'whenNotSingleLine',
  'bracePosition': 'sameLine',
  'nextControlFlowPosition': 'sameLine',
  'singleBodyPosition': 'maintain',
  'trailingCommas': 'onlyMultiLine',
  'operatorPosition': 'nextLine',
  'memberExpression.preferSingleLine': true,
  'arrowFunction.useParentheses': 'maintain',
  'arguments.preferHanging': 'onlySingleItem',
  'parameters.preferHanging': 'onlySingleItem',
  'arrayExpression.preferHanging': 'always',
  'tupleType.preferHanging': 'always',
  'unionAndIntersectionType.preferHanging': 'always',
  'typeLiteral.separatorKind': 'comma',
  'module.sortImportDeclarations': 'maintain',
  'module.sortExportDeclarations': 'maintain',
  'importDeclaration.sortNamedImports': 'maintain',
  'exportDeclaration.sortNamedExports': 'maintain',
  'importDeclaration.forceMultiLine': 'never',
  'exportDeclaration.forceMultiLine': 'never',
})

// What was laid out once may come out otherwise the second time: a layout is one that stays.
/** @param {string} filePath @param {string} fileText @returns {string} */
function steady(filePath, fileText, tries = 4) {
  const next = formatter.formatText({ filePath, fileText })
  return next === fileText || tries === 0 ? next : steady(filePath, next, tries - 1)
}

/** @param {string} path @param {string} text */
function laidOut(path, text) {
  if (!path.endsWith('.vue')) return steady(path, text)
  return text.replace(/(<script[^>]*>\n)([\s\S]*?)(<\/script>)/g, (_, begin, script, end) => begin + steady('script.ts', script) + end)
}

const isCheck = process.argv.includes('--check')
const listed = execFileSync('git', ['ls-files', '-co', '--exclude-standard', '*.ts', '*.mjs', '*.vue'], { cwd: root, encoding: 'utf8' })
// What was taken away and is not said to git yet is listed still.
const otherwise = listed.split('\n').filter(path => path !== '' && existsSync(join(root, path))).filter((path) => {
  const text = readFileSync(join(root, path), 'utf8')
  const wanted = laidOut(path, text)
  if (wanted === text) return false
  if (!isCheck) writeFileSync(join(root, path), wanted)
  return true
})
for (const path of otherwise) console.log(path)
if (isCheck && otherwise.length > 0) {
  say(`laid out otherwise than "npm run format" does: ${otherwise.length} files`)
  process.exit(1)
}
