import { bin, checkNode, fail, officeKeyFile, run } from './lib/system.mjs'
import { startCluster, useCluster } from './lib/postgres.mjs'

/** `npm run rotate-card-key [-- --demo]`: cards are signed with a new key from now on; those signed before stay genuine. */
checkNode()
const strange = process.argv.slice(2).find(word => word !== '--demo')
if (strange) fail(`"${strange}" is not known; there is --demo, for the demo.`)
let url = process.env.DATABASE_URL
let release = () => {}
if (!url) {
  const cluster = await startCluster()
  release = useCluster(cluster)
  url = cluster.url(process.argv.includes('--demo') ? 'lucid' : 'lucid_office')
}
const good = await run(bin('tsx'), ['scripts/rotate-card-key.ts'], { env: { DATABASE_URL: url, LUCID_KEY_FILE: officeKeyFile() } })
release()
process.exit(good ? 0 : 1)
