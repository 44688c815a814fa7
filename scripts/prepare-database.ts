import { prepareDatabase } from '../demo/load'

const { DATABASE_URL, LUCID_SECRET } = process.env
if (!DATABASE_URL || !LUCID_SECRET) throw new Error('DATABASE_URL and LUCID_SECRET must be set; "npm start" sets them')

try {
  await prepareDatabase(DATABASE_URL, LUCID_SECRET, text => console.log(`lucid: ${text}`))
} catch (error) {
  console.error(error)
  process.exit(1)
}
process.exit(0)
