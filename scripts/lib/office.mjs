import { bin, checkNode, fail, officeKeyFile, run } from './system.mjs'
import { startCluster, useCluster } from './postgres.mjs'

/** What was said behind a command, and whether it is about the demo's database. `--demo` is the one option that all of them know. */
export function saidWords() {
  const words = process.argv.slice(2)
  const strange = words.find(word => word.startsWith('--') && word !== '--demo')
  if (strange) fail(`"${strange}" is not known; there is --demo, for the demo.`)
  return { words: words.filter(word => word !== '--demo'), isDemo: words.includes('--demo') }
}

/**
 * Runs a script on the database of the office or of the demo, and ends with its end: that of the environment, or the private cluster's,
 * which is started where nobody else uses it.
 *
 * @param variables by variable of the environment, the role whose address of the database it holds; without one of its own it holds that of
 * DATABASE_URL.
 * @param said what was said behind the command, and `failure`, the exit code where the script fails.
 */
export async function onOffice(script, variables, { isDemo, args = [], failure = 1 }) {
  checkNode()
  const names = Object.keys(variables)
  const own = process.env.DATABASE_URL ?? names.map(name => process.env[name]).find(Boolean)
  let [env, release] = [Object.fromEntries(names.map(name => [name, process.env[name] ?? own])), () => {}]
  if (!own) {
    const cluster = await startCluster()
    release = useCluster(cluster)
    const urls = cluster.roleUrls(isDemo ? 'lucid' : 'lucid_office')
    env = Object.fromEntries(names.map(name => [name, urls[variables[name]]]))
  }
  const good = await run(bin('tsx'), [`scripts/${script}.ts`, ...args], { env: { ...env, LUCID_KEY_FILE: officeKeyFile() } })
  release()
  process.exit(good ? 0 : failure)
}
