import { readdirSync, readFileSync, statSync } from 'node:fs'
import { dirname, join, relative, resolve } from 'node:path'
import { describe, expect, it } from 'vitest'
import { laterWords } from '../core/words/en/later'

/** The rules of the house as docs/architecture.md states them: which floor may stand on which, and no circles. */
const root = resolve(import.meta.dirname, '..')
const floors = ['app', 'bench', 'cli', 'core', 'demo', 'documents', 'pictures', 'scripts', 'server', 'shared', 'statements', 'tables',
  'tests']
const mayImport: Record<string, string[]> = {
  core: ['core'],
  shared: ['shared', 'core'],
  app: ['app', 'documents', 'shared', 'core'],
  documents: ['documents', 'core'],
  tables: ['tables', 'shared', 'core'],
  statements: ['statements', 'tables', 'shared', 'core'],
  server: ['server', 'pictures', 'statements', 'tables', 'shared', 'core'],
  pictures: ['pictures', 'documents', 'shared', 'core'],
  cli: ['cli', 'pictures', 'documents', 'core', 'shared'],
  demo: ['demo', 'statements', 'server', 'pictures', 'documents', 'shared', 'core'],
  bench: ['bench', 'statements', 'tables', 'scripts', 'cli', 'demo', 'server', 'pictures', 'documents', 'shared', 'core'],
  scripts: ['scripts', 'demo', 'server', 'pictures', 'shared', 'core'],
}
const corePackages = ['zod', 'any-ascii', 'cborg', '@noble/curves/ed25519.js', '@noble/hashes/sha2.js', '@noble/hashes/utils.js',
  'flatqueue', 'intl-messageformat', 'libphonenumber-js/max']

function files(place: string): string[] {
  return readdirSync(place).flatMap((name) => {
    const path = join(place, name)
    return statSync(path).isDirectory() ? files(path) : /\.(ts|vue|mjs)$/.test(name) ? [path] : []
  })
}
const present = floors.map(f => join(root, f)).filter(f => statSync(f, { throwIfNoEntry: false }) !== undefined)
const isTest = (path: string) => /\.(test|spec)\.ts$/.test(path) || path.startsWith('tests/')
const modules = new Map(present.flatMap(files).map((path) => {
  const text = readFileSync(path, 'utf8')
  const wanted = [...text.matchAll(/^(?:import|export)[^'"`]*? from '([^']+)'|^\s*import '([^']+)'|import\(\s*'([^']+)'/gm)].map(m =>
    m[1] ?? m[2] ?? m[3] ?? ''
  )
  const local = wanted.filter(w => /^[.~]/.test(w)).map(w =>
    relative(
      root,
      w.startsWith('~~') ? join(root, w.slice(3)) : w.startsWith('~') ? join(root, 'app', w.slice(2)) : resolve(dirname(path), w),
    )
  )
  return [relative(root, path), { text, local, packages: wanted.filter(w => !/^[.~]/.test(w)) }]
}))
const floorOf = (path: string) => path.split('/')[0] ?? ''

describe('the house', () => {
  it('has arrows that point down only', () => {
    const wrong = [...modules].filter(([path]) => !isTest(path)).flatMap(([path, { local }]) =>
      local.filter(to => floors.includes(floorOf(to)) && !mayImport[floorOf(path)]?.includes(floorOf(to))).map(to => `${path} -> ${to}`)
    )
    expect(wrong).toEqual([])
  })

  it('has a core that knows no interface, no server and no machine', () => {
    const wrong = [...modules].filter(([path]) => floorOf(path) === 'core' && !isTest(path)).flatMap(([path, { packages }]) =>
      packages.filter(p => !corePackages.includes(p)).map(p => `${path} -> ${p}`)
    )
    expect(wrong).toEqual([])
  })

  it('asks for time, randomness and ids nowhere in the core', () => {
    const wrong = [...modules].filter(([path, { text }]) =>
      floorOf(path) === 'core' && !isTest(path) && /Date\.now|new Date\(\)|Math\.random|randomUUID|process\./.test(text)
    ).map(([path]) => path)
    expect(wrong).toEqual([])
  })

  it('has routes without rules and SQL, and only services and jobs that touch the database', () => {
    const wrong = [...modules].filter(([path, { packages, local }]) =>
      path.startsWith('server/api/') && (packages.includes('drizzle-orm') || local.some(to => to.startsWith('server/database')))
    ).map(([path]) => path)
    expect(wrong).toEqual([])
  })

  it('has no circles', () => {
    const find = (to: string) => ['', '.ts', '.vue', '.mjs', '/index.ts'].map(end => to + end).find(path => modules.has(path))
    const done = new Set<string>()
    const circle = (path: string, way: string[]): string[] | null => {
      if (way.includes(path)) return [...way.slice(way.indexOf(path)), path]
      if (done.has(path)) return null
      for (const to of modules.get(path)?.local ?? []) {
        const next = find(to)
        const found = next ? circle(next, [...way, path]) : null
        if (found) return found
      }
      done.add(path)
      return null
    }
    expect([...modules.keys()].map(path => circle(path, [])).find(Boolean) ?? null).toBeNull()
  })

  it('says words that come later only where they are asked for', () => {
    const later = new RegExp(`say\\([^)]*'(${Object.keys(laterWords.screens).join('|')})\\.`)
    const saying = [...modules].filter(([path, { text }]) => floorOf(path) === 'app' && later.test(text))
    expect(saying.length).toBeGreaterThan(20)
    expect(saying.filter(([, { local }]) => !local.includes('app/words/later')).map(([path]) => path)).toEqual([])
  })

  it('holds no file that is too long to read', () => {
    const long = [...modules].filter(([path, { text }]) => !isTest(path) && text.split('\n').length > 400).map(([path]) => path)
    expect(long).toEqual([])
    const wide = [...modules].filter(([, { text }]) => /<style[^]*?\n[^\n]{141}[^]*<\/style>/.test(text)).map(([path]) => path)
    expect(wide).toEqual([])
  })
})
