import { defineConfig } from 'vitest/config'

/** Tests that kill what they test: run by `npm test` after the browser's, against the built server, on databases of their own. */
export default defineConfig({ test: { include: ['tests/faults/*.faults.ts'], testTimeout: 180_000, hookTimeout: 120_000, maxWorkers: 1 } })
