import { register } from 'tsx/esm/api'

/** A thread has none of the first one's loaders: this file is read without any, and then reads the one that works. */
register()
await import('./sittings-solver.ts')
