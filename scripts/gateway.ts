import { openDatabase } from '../server/database/client'
import { GatewayServer } from '../server/standins/gateway-server'

/**
 * The simulated gateway as a process of its own. DATABASE_URL: where its book lies. LUCID_SECRET: what office and gateway sign with.
 * LUCID_ADDRESS: where the office is called. GATEWAY_HOST and GATEWAY_PORT: where it listens.
 */
const { DATABASE_URL, LUCID_SECRET, LUCID_ADDRESS, GATEWAY_HOST = '127.0.0.1', GATEWAY_PORT = '3001' } = process.env
if (!DATABASE_URL || !LUCID_SECRET || !LUCID_ADDRESS) throw new Error('DATABASE_URL, LUCID_SECRET and LUCID_ADDRESS must be set.')
const database = openDatabase(DATABASE_URL, 4)
const server = new GatewayServer({
  db: database.db,
  secret: LUCID_SECRET,
  office: LUCID_ADDRESS,
  host: GATEWAY_HOST,
  port: Number(GATEWAY_PORT),
})
const leave = () => {
  void server.close().then(() => database.close()).then(() => process.exit(0))
}
process.on('SIGINT', leave)
process.on('SIGTERM', leave)
console.log(`lucid: the simulated payment gateway serves on ${await server.start()}`)
