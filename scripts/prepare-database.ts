import { prepareDatabase, prepareEmptyDatabase } from '../demo/load'

const { DATABASE_URL, LUCID_SECRET } = process.env
if (!DATABASE_URL || !LUCID_SECRET) throw new Error('DATABASE_URL and LUCID_SECRET must be set; "npm start" sets them')
const tell = (text: string) => console.log(`lucid: ${text}`)

try {
  if (process.argv.includes('--empty')) await prepareEmptyDatabase(DATABASE_URL, tell)
  else await prepareDatabase(DATABASE_URL, LUCID_SECRET, tell)
} catch (error) {
  console.error(error)
  process.exit(1)
}
process.exit(0)
