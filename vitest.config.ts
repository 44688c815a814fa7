import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'
import { workerAsText } from './scripts/lib/worker-as-text.mjs'

/** Unit tests beside the code, reference and integration tests under `tests/`. Those that need a database make their own. */
export default defineConfig({
  plugins: ['allocation', 'picture'].map(name =>
    workerAsText(`virtual:${name}-worker`, fileURLToPath(new URL(`server/workers/${name}.worker.ts`, import.meta.url)))
  ),
  test: {
    include: ['core/**/*.test.ts', 'documents/**/*.test.ts', 'statements/**/*.test.ts', 'tables/**/*.test.ts', 'pictures/**/*.test.ts',
      'shared/**/*.test.ts', 'server/**/*.test.ts', 'demo/**/*.test.ts', 'cli/**/*.test.ts', 'tests/**/*.test.ts'],
    // A test that hangs should end at some time; a machine four times slower than a usual one should not end it.
    testTimeout: 180_000,
    hookTimeout: 240_000,
    globalSetup: ['tests/database.ts'],
    maxWorkers: 2,
    // Files of one worker share what they have loaded: loading it anew for each takes a third of the time.
    isolate: false,
    silent: 'passed-only',
  },
})
