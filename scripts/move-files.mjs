import { bin, checkNode, fail, run } from './lib/system.mjs'
import { startCluster, useCluster } from './lib/postgres.mjs'

/** `npm run move-files -- objects|database [--demo]`: moves pictures and papers to the store of objects or back, while servers run. */
checkNode()
const words = process.argv.slice(2)
const to = words.find(word => !word.startsWith('--'))
if (to !== 'objects' && to !== 'database') fail('say where the files go: npm run move-files -- objects, or database; and --demo for the demo.')
let url = process.env.DATABASE_URL
let release = () => {}
if (!url) {
  const cluster = await startCluster()
  release = useCluster(cluster)
  url = cluster.url(words.includes('--demo') ? 'lucid' : 'lucid_office', 'lucid_files')
}
const good = await run(bin('tsx'), ['scripts/move-files.ts', to], { env: { DATABASE_URL: url } })
release()
process.exit(good ? 0 : 1)
