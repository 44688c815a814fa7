import { InputError } from './input'
import { readTextAs } from './text'

/**
 * The command line: one word for the tool, then its options. Exit codes: 0 done, 1 a fault of ours, 2 bad input; a tool may add its own.
 */
const tools: Record<string, (args: string[]) => Promise<number>> = {
  // Each is loaded when it is asked for: decoding and models are nothing that a list of candidates should wait for.
  allocate: async args => (await import('./allocate')).allocate(args),
  eligibility: async args => (await import('./eligibility')).eligibility(args),
  notice: async args => (await import('./notice')).notice(args),
  image: async args => (await import('./image')).image(args),
  audit: async args => (await import('./audit')).audit(args),
  sittings: async args => (await import('./sittings')).sittings(args),
}
const [name = '', ...args] = process.argv.slice(2)

try {
  const at = args.indexOf('--encoding')
  if (at >= 0) readTextAs(args.splice(at, 2)[1] ?? '')
  const tool = tools[name]
  if (!tool) {
    throw new InputError(`"${name}" is not a tool; there are: ${Object.keys(tools).join(', ')}. Each tells its options with --help.`)
  }
  process.exitCode = await tool(args)
} catch (error) {
  if (!(error instanceof InputError)) throw error
  console.error(`lucid: ${error.message}`)
  process.exitCode = 2
}
