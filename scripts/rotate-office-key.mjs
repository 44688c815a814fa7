import { bin, checkNode, fail, officeKeyFile, run } from './lib/system.mjs'
import { startCluster, useCluster } from './lib/postgres.mjs'

/** `npm run rotate-office-key [-- --demo]`: secrets in the database are sealed under a new key of the office from now on. The demo and the office share the file: see operations.md. */
checkNode()
const strange = process.argv.slice(2).find(word => word !== '--demo')
if (strange) fail(`"${strange}" is not known; there is --demo, for the demo.`)
let url = process.env.LUCID_OWNER_DATABASE_URL ?? process.env.DATABASE_URL
let release = () => {}
if (!url) {
  const cluster = await startCluster()
  release = useCluster(cluster)
  url = cluster.url(process.argv.includes('--demo') ? 'lucid' : 'lucid_office', 'lucid_owner')
}
const good = await run(bin('tsx'), ['scripts/rotate-office-key.ts'], { env: { LUCID_OWNER_DATABASE_URL: url, LUCID_KEY_FILE: officeKeyFile() } })
release()
process.exit(good ? 0 : 1)
