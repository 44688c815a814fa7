import { BlockList, isIP } from 'node:net'
import { getHeader, type H3Event } from 'h3'

/** Where a request comes from: an address, and whether it came over TLS. */
export interface Origin {
  address: string
  isSecure: boolean
}

/**
 * Proxies that the operator trusts, from `LUCID_TRUSTED_PROXIES`: addresses and networks ("10.1.0.0/16"), with commas between. Anybody can
 * write the headers of a proxy; they are believed as far as trusted proxies wrote them.
 *
 * @throws Error when a part is neither.
 */
export function trustedProxies(setting: string): BlockList {
  const list = new BlockList()
  for (const part of setting.split(',').map(one => one.trim()).filter(one => one !== '')) {
    const [address = '', bits] = part.split('/')
    const family = isIP(address)
    const most = family === 6 ? 128 : 32
    if (family === 0 || (bits !== undefined && !(/^\d+$/.test(bits) && Number(bits) <= most))) {
      throw new Error(`LUCID_TRUSTED_PROXIES holds "${part}", which is no address and no network such as 10.1.0.0/16`)
    }
    if (bits === undefined) list.addAddress(address, `ipv${family as 4 | 6}`)
    else list.addSubnet(address, Number(bits), `ipv${family as 4 | 6}`)
  }
  return list
}

/** One step of a request on its way: who sent it, and how it came to whoever wrote this. */
interface Hop {
  from: string
  isSecure: boolean
}

let known: { setting: string, list: BlockList } | null = null

/** Where a request comes from, by its connection and by what trusted proxies say. */
export function originOf(event: H3Event): Origin {
  const setting = process.env.LUCID_TRUSTED_PROXIES ?? ''
  if (known?.setting !== setting) known = { setting, list: trustedProxies(setting) }
  const header = process.env.LUCID_PROXY_HEADER === 'forwarded' ? 'forwarded' : 'x-forwarded-for'
  const hops = header === 'forwarded'
    ? forwarded(getHeader(event, 'forwarded') ?? '')
    : listed(getHeader(event, 'x-forwarded-for') ?? '', getHeader(event, 'x-forwarded-proto') ?? '')
  const socket = event.node.req.socket as { remoteAddress?: string, encrypted?: boolean } | undefined
  return throughProxies({ address: plain(socket?.remoteAddress ?? 'unknown'), isSecure: socket?.encrypted === true }, hops, known.list)
}

/** Walks back from the connection for as long as a trusted proxy tells who came before. */
export function throughProxies(connection: Origin, hops: readonly Hop[], trusted: BlockList): Origin {
  let at = connection
  for (const { from, isSecure } of [...hops].reverse()) {
    const family = isIP(at.address)
    if (family === 0 || !trusted.check(at.address, `ipv${family as 4 | 6}`)) break
    at = { address: from, isSecure }
  }
  return at
}

/**
 * RFC 7239, section 4: elements with commas between, each of pairs with semicolons between; values may be quoted, and addresses of IPv6
 * stand in brackets.
 */
export function forwarded(header: string): Hop[] {
  const elements = header.match(/(?:[^,"]|"(?:[^"\\]|\\.)*")+/g) ?? []
  return elements.map((element) => {
    const pairs = new Map((element.match(/(?:[^;"]|"(?:[^"\\]|\\.)*")+/g) ?? []).map((pair) => {
      const [name = '', ...value] = pair.split('=')
      return [name.trim().toLowerCase(), value.join('=').trim().replace(/^"(.*)"$/, '$1').replace(/\\(.)/g, '$1')]
    }))
    return { from: plain(pairs.get('for') ?? 'unknown'), isSecure: pairs.get('proto')?.toLowerCase() === 'https' }
  })
}

function listed(addresses: string, protocol: string): Hop[] {
  const isSecure = protocol.split(',').at(-1)?.trim().toLowerCase() === 'https'
  return addresses === '' ? [] : addresses.split(',').map(from => ({ from: plain(from.trim()), isSecure }))
}

/** An address without port, brackets and the coat that an IPv4 address wears in an IPv6 socket. */
function plain(address: string): string {
  const bare = /^\[([^\]]+)\](?::\d+)?$/.exec(address)?.[1]
    ?? (/^\d+\.\d+\.\d+\.\d+:\d+$/.test(address) ? address.replace(/:\d+$/, '') : address)
  return bare.replace(/^::ffff:(?=\d+\.\d+\.\d+\.\d+$)/i, '')
}

/** What counts as one network when tries are counted: an address of IPv4, the first 64 bits of IPv6, which one household gets. */
export function networkOf(address: string): string {
  if (isIP(address) !== 6) return address
  const [head = '', tail] = address.split('::')
  const left = head === '' ? [] : head.split(':')
  const right = tail === undefined || tail === '' ? [] : tail.split(':')
  const groups = tail === undefined
    ? left
    : [...left, ...Array.from({ length: Math.max(0, 8 - left.length - right.length) }, () => '0'), ...right]
  return `${groups.slice(0, 4).map(group => Number.parseInt(group, 16).toString(16)).join(':')}::/64`
}
