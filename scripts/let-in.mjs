import { bin, checkNode, fail, run } from './lib/system.mjs'
import { startCluster, useCluster } from './lib/postgres.mjs'

/** `npm run let-in -- NAME [--demo]`: a link for an administrator who was locked out, of the office that began empty or of the demo. */
checkNode()
const words = process.argv.slice(2)
const name = words.find(word => !word.startsWith('--'))
if (!name) fail('say who is let in: npm run let-in -- NAME, and --demo for the demo.')
let url = process.env.DATABASE_URL
let release = () => {}
if (!url) {
  const cluster = await startCluster()
  release = useCluster(cluster)
  url = cluster.url(words.includes('--demo') ? 'lucid' : 'lucid_office')
}
const good = await run(bin('tsx'), ['scripts/let-in.ts', name], { env: { DATABASE_URL: url } })
release()
process.exit(good ? 0 : 1)
