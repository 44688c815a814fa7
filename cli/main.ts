import { InputError } from './input'
import { allocate } from './allocate'
import { eligibility } from './eligibility'
import { sittings } from './sittings'

/** The command line: one word for the tool, then its options. Exit codes: 0 done, 1 a fault of ours, 2 bad input; a tool may add its own. */
const tools: Record<string, (args: string[]) => Promise<number>> = { allocate, eligibility, sittings }
const [name = '', ...args] = process.argv.slice(2)

try {
  const tool = tools[name]
  if (!tool) throw new InputError(`"${name}" is not a tool; there are: ${Object.keys(tools).join(', ')}. Each tells its options with --help.`)
  process.exitCode = await tool(args)
} catch (error) {
  if (!(error instanceof InputError)) throw error
  console.error(`lucid: ${error.message}`)
  process.exitCode = 2
}
