/**
 * How many acts a process carries out at once. A rush of them waits here and not for the connections of the pool, where everybody who only
 * reads would stand in the same line. Few are enough to keep a process busy; more of them only make everybody else wait longer for its one
 * thread.
 */
const atOnce = 3

let under = 0
const line: (() => void)[] = []

/** Runs one act when it is its turn. An act must not wait for another one inside. */
export async function inTurn<T>(act: () => Promise<T>): Promise<T> {
  if (under >= atOnce) await new Promise<void>(begin => line.push(begin))
  else under += 1
  try {
    return await act()
  } finally {
    const next = line.shift()
    // The place goes to whoever is next, so that nobody slips in between.
    if (next) next()
    else under -= 1
  }
}
