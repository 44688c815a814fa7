/**
 * The address at which people reach the office from outside, for links in letters: `LUCID_PUBLIC_ADDRESS`, and the server's own where it is
 * not set. What a request says of itself is not used: whoever sends one can write there what they like.
 *
 * @throws where it is no address of the web.
 */
export function publicAddress({ LUCID_PUBLIC_ADDRESS: address, HOST = '127.0.0.1', PORT = '3000' }: NodeJS.ProcessEnv =
  process.env): string {
  if (!address) return `http://${HOST}:${PORT}`
  const url = URL.canParse(address) ? new URL(address) : null
  if (!url || (url.protocol !== 'https:' && url.protocol !== 'http:') || url.search || url.hash) {
    throw new Error('LUCID_PUBLIC_ADDRESS must be an address such as https://exams.board.example.')
  }
  return url.href.replace(/\/$/, '')
}
