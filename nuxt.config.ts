import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { faceEngines, faceModels } from './core/imaging/detector'
import { workerAsText } from './scripts/lib/worker-as-text.mjs'

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url))

/** The face models and their engine as the browser asks for them: only the files that are used, out of the packages that ship them. */
function faceFiles(): string {
  const folder = here('./node_modules/.cache/lucid-faces')
  mkdirSync(folder, { recursive: true })
  const from = (path: string, names: readonly string[]) =>
    names.forEach(name => copyFileSync(here(`./node_modules/${path}/${name}`), join(folder, name)))
  from('@vladmandic/human/models', faceModels.flatMap(name => [`${name}.json`, `${name}.bin`]))
  from('@tensorflow/tfjs-backend-wasm/dist', faceEngines)
  return folder
}

/** The reader of PDFs as the browser asks for it, out of its package. */
function documentFiles(): string {
  const folder = here('./node_modules/.cache/lucid-documents')
  mkdirSync(folder, { recursive: true })
  copyFileSync(here('./node_modules/@embedpdf/pdfium/dist/pdfium.wasm'), join(folder, 'pdfium.wasm'))
  return folder
}

/** The house's faces with their files, as one sheet of styles that pages ask for once they stand: until then the machine's own are read. */
function fontFiles(): string {
  const folder = here('./node_modules/.cache/lucid-type')
  mkdirSync(folder, { recursive: true })
  const sheets = ['@fontsource-variable/source-sans-3/index.css', '@fontsource-variable/source-serif-4/index.css',
    '@fontsource/noto-sans-devanagari/400.css', '@fontsource/noto-naskh-arabic/400.css']
  const styles = sheets.map((sheet) => {
    const text = readFileSync(here(`./node_modules/${sheet}`), 'utf8')
    for (const [, name] of text.matchAll(/url\(\.\/files\/([\w.-]+)\)/g)) {
      copyFileSync(here(`./node_modules/${dirname(sheet)}/files/${name}`), join(folder, name ?? ''))
    }
    return text.replaceAll('url(./files/', 'url(/type/')
  })
  writeFileSync(join(folder, 'faces.css'), styles.join('\n'))
  return folder
}

/** Where a candidate comes in and finds their applications, with what all pages of candidates are shown in. */
const entrance = ['app/pages/apply/index.vue', 'app/layouts/candidate.vue', 'app/components/house/HeadlineMark.vue']
/** Where a candidate works. */
const candidatePages = ['app/pages/own/[id].vue']
/** What they need only once somebody has pressed something: it comes by itself when the page stands. */
const afterwards = ['act/Dialog', 'house/FindingRows', 'sheet/DeclarationDialog', 'sheet/ConflictDialog', 'sheet/Ways', 'sheet/Payment',
  'picture/Coach', 'picture/Camera', 'picture/Examples', 'sheet/TableField', 'sheet/CityChoices', 'sheet/Ranked', 'document/Binder',
  'document/Pages'].map(name => `app/components/${name}.vue`)
const reached = new WeakMap<object, Map<string, string>>()

/**
 * What is reached from the pages of candidates goes into two files, apart from what every page begins with and from what can come
 * afterwards. Rollup by itself makes dozens, one for each set of pages that share something.
 */
function forCandidates(
  id: string,
  { getModuleInfo, getModuleIds }: {
    getModuleInfo: (id: string) => { isEntry: boolean, importedIds: readonly string[] } | null,
    getModuleIds: () => IterableIterator<string>,
  },
): string | undefined {
  let chunks = reached.get(getModuleInfo)
  if (!chunks) {
    chunks = new Map()
    const ids = [...getModuleIds()]
    const walk = (from: readonly string[], chunk: string, known: Map<string, string>) => {
      const open = [...from]
      for (let next = open.pop(); next !== undefined; next = open.pop()) {
        if (known.has(next)) continue
        known.set(next, chunk)
        open.push(...getModuleInfo(next)?.importedIds ?? [])
      }
    }
    walk(ids.filter(one => getModuleInfo(one)?.isEntry), 'frame', chunks)
    walk(ids.filter(one => entrance.some(page => one === here(`./${page}`))), 'entrance', chunks)
    walk(ids.filter(one => candidatePages.some(page => one === here(`./${page}`))), 'candidate', chunks)
    walk(ids.filter(one => afterwards.some(part => one === here(`./${part}`))), 'afterwards', chunks)
    reached.set(getModuleInfo, chunks)
  }
  return chunks.get(id)
}

/**
 * What no page needs is left out of what every telephone fetches: taking up a page that a server drew, as ours are drawn in the browser
 * only, and skeletons in messages.
 */
const neededOnly = {
  name: 'needed-only',
  enforce: 'pre' as const,
  resolveId: (id: string) => id === '@formatjs/icu-skeleton-parser' ? here('./app/words/no-skeletons.ts') : null,
  transform: (code: string, id: string) =>
    id.includes('nuxt/dist/app/entry')
      ? { code: code.replace('isSSR ? createSSRApp(RootComponent) : createApp(RootComponent)', 'createApp(RootComponent)'), map: null }
      : null,
}

export default defineNuxtConfig({
  modules: ['@pinia/nuxt', '@element-plus/nuxt', '@nuxt/eslint', 'nuxt-security'],
  // Staff work behind a sign-in with live state: pages are drawn in the browser, the server sends data.
  ssr: false,
  devtools: { enabled: false },
  app: {
    head: {
      title: 'Lucid Roster',
      htmlAttrs: { lang: 'en' },
      meta: [{ name: 'viewport', content: 'width=device-width, initial-scale=1' }, { name: 'color-scheme', content: 'light dark' }],
      link: [{ rel: 'icon', href: '/icon.svg', type: 'image/svg+xml' }],
    },
  },
  css: [
    here('./app/assets/theme.css'),
    here('./app/assets/house.css'),
  ],
  // Pages are drawn in the browser: nothing of what a server drew has to be read back.
  experimental: {
    defaults: { nuxtLink: { prefetch: false } },
    renderJsonPayloads: false,
    payloadExtraction: false,
    appManifest: false,
    checkOutdatedBuildInterval: false,
  },
  compatibilityDate: '2026-11-01',
  nitro: {
    compressPublicAssets: true,
    publicAssets: [{ dir: faceFiles(), baseURL: 'faces', maxAge: 86_400 }, { dir: documentFiles(), baseURL: 'documents', maxAge: 86_400 }, {
      dir: fontFiles(),
      baseURL: 'type',
      maxAge: 86_400,
    }, { dir: here('./app/assets'), baseURL: 'looks', maxAge: 3600 }],
    esbuild: { options: { target: 'es2022' } },
    externals: { traceOptions: { conditions: ['production', 'node', 'module-sync'] } },
    rollupConfig: {
      plugins: [
        ...['allocation', 'picture'].map(name => workerAsText(`virtual:${name}-worker`, here(`./server/workers/${name}.worker.ts`))),
        workerAsText('virtual:offline-worker', here('./app/workers/offline.worker.ts'), 'browser'),
      ],
    },
  },
  vite: {
    worker: { format: 'es' },
    plugins: [neededOnly],
    // One file of what candidates' pages share: on a slow line each request costs as much as twenty kilobytes.
    // Two composables that nobody here calls would stay, with what they need, for the factory that makes them.
    $client: {
      // No component here is written with options, nor is one of the interface library that is used.
      define: { __VUE_OPTIONS_API__: 'false' },
      build: {
        rollupOptions: {
          treeshake: { moduleSideEffects: id => !/nuxt\/dist\/app\/composables\/(asyncData|fetch)\.js$/.test(id) },
          output: { manualChunks: forCandidates },
        },
      },
    },
    optimizeDeps: {
      include: ['@element-plus/icons-vue', 'dayjs', 'lodash-unified', 'zod', 'zxing-wasm/reader', 'cborg', '@noble/curves/ed25519.js',
        'plotly.js-basic-dist-min', '@vladmandic/human', '@embedpdf/pdfium', 'pdf-lib'],
    },
  },
  typescript: { strict: true, tsConfig: { compilerOptions: { noUncheckedIndexedAccess: true } } },
  telemetry: false,
  hooks: {
    // What some other page may need is not fetched before this one stands.
    'build:manifest'(manifest) {
      for (const item of Object.values(manifest)) item.prefetch = false
    },
    // The development server of this Nuxt looks for a server entry even where pages are drawn in the browser only.
    'vite:extendConfig'(config, { isClient }) {
      const options = config.build?.rollupOptions
      const input = options?.input
      if (
        isClient && process.env.NODE_ENV === 'development' && options && typeof input === 'object' && !Array.isArray(input) && input.entry
      ) options.input = { ...input, server: input.entry }
    },
  },
  elementPlus: { importStyle: 'css' },
  eslint: { config: { stylistic: true } },
  security: {
    // Sign-in is throttled in the database, for all processes together; forged requests are refused by our own routes.
    rateLimiter: false,
    requestSizeLimiter: false,
    xssValidator: false,
    corsHandler: false,
    headers: {
      crossOriginEmbedderPolicy: false,
      permissionsPolicy: { camera: ['self'] },
      contentSecurityPolicy: {
        'default-src': ["'none'"],
        'script-src': ["'self'", "'nonce-{{nonce}}'", "'wasm-unsafe-eval'"],
        // The hash is that of the empty style element that the charts add and fill by script.
        'style-src': ["'self'", "'nonce-{{nonce}}'", "'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU='"],
        'style-src-attr': ["'unsafe-inline'"],
        'img-src': ["'self'", 'data:', 'blob:'],
        'media-src': ["'self'", 'blob:'],
        'font-src': ["'self'"],
        'connect-src': ["'self'"],
        'worker-src': ["'self'"],
        'manifest-src': ["'self'"],
        'base-uri': ["'none'"],
        'form-action': ["'self'"],
        'frame-ancestors': ["'none'"],
        'object-src': ["'none'"],
        'upgrade-insecure-requests': false,
      },
      strictTransportSecurity: false,
    },
  },
})
