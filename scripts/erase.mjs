import { bin, checkNode, fail, officeKeyFile, run } from './lib/system.mjs'
import { startCluster, useCluster } from './lib/postgres.mjs'

/** `npm run erase [-- --demo]`: what released cycles tell of people is erased. */
checkNode()
const strange = process.argv.slice(2).find(word => word !== '--demo')
if (strange) fail(`"${strange}" is not known; there is --demo, for the demo.`)
let env = { DATABASE_URL: process.env.DATABASE_URL, LUCID_FILES_DATABASE_URL: process.env.LUCID_FILES_DATABASE_URL }
let release = () => {}
if (!env.DATABASE_URL) {
  const cluster = await startCluster()
  release = useCluster(cluster)
  const { application, files } = cluster.roleUrls(process.argv.includes('--demo') ? 'lucid' : 'lucid_office')
  env = { DATABASE_URL: application, LUCID_FILES_DATABASE_URL: files }
}
const good = await run(bin('tsx'), ['scripts/erase.ts'], { env: { ...env, LUCID_KEY_FILE: officeKeyFile() } })
release()
process.exit(good ? 0 : 1)
