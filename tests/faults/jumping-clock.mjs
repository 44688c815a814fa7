import { readFileSync } from 'node:fs'

/** Loaded before a server: its machine's clock is off by as many milliseconds as a file says, which is read anew all the time. */
const file = process.env.LUCID_JUMPING_CLOCK ?? ''
const Real = Date
let off = 0
function read() {
  try {
    off = Number(readFileSync(file, 'utf8')) || 0
  } catch {
    // Being written.
  }
}
read()
setInterval(read, 100).unref()
globalThis.Date = class extends Real {
  constructor(...given) {
    if (given.length === 0) super(Real.now() + off)
    else super(...given)
  }

  static now() {
    return Real.now() + off
  }
}
