import { describe, expect, it } from 'vitest'
import { forwarded, networkOf, throughProxies, trustedProxies } from './proxy'

const connection = { address: '10.1.2.3', isSecure: false }
const trusted = trustedProxies('10.1.0.0/16, ::1')

describe('where a request comes from', () => {
  it('is told by trusted proxies only, from the nearest back', () => {
    const hop = (from: string, isSecure = true) => ({ from, isSecure })
    expect(throughProxies(connection, [hop('203.0.113.7')], trusted)).toEqual({ address: '203.0.113.7', isSecure: true })
    expect(throughProxies(connection, [hop('198.51.100.1'), hop('203.0.113.7'), hop('10.1.9.9')], trusted)).toEqual({
      address: '203.0.113.7',
      isSecure: true,
    })
    expect(throughProxies({ address: '192.0.2.9', isSecure: false }, [hop('203.0.113.7')], trusted)).toEqual({
      address: '192.0.2.9',
      isSecure: false,
    })
    expect(throughProxies(connection, [hop('unknown'), hop('_hidden')], trusted).address).toBe('_hidden')
    expect(throughProxies(connection, [hop('203.0.113.7')], trustedProxies('')).address).toBe('10.1.2.3')
  })

  // The examples of RFC 7239, sections 4, 5.2 and 7.1.
  it('is read out of the header as the standard spells it', () => {
    const from = (header: string) => forwarded(header).map(hop => hop.from)
    expect(from('for="_gazonk"')).toEqual(['_gazonk'])
    expect(from('For="[2001:db8:cafe::17]:4711"')).toEqual(['2001:db8:cafe::17'])
    expect(forwarded('for=192.0.2.60;proto=http;by=203.0.113.43')).toEqual([{ from: '192.0.2.60', isSecure: false }])
    expect(from('for=192.0.2.43, for=198.51.100.17')).toEqual(['192.0.2.43', '198.51.100.17'])
    expect(from('for=192.0.2.43, for="[2001:db8:cafe::17]", for=unknown')).toEqual(['192.0.2.43', '2001:db8:cafe::17', 'unknown'])
    expect(forwarded('for=192.0.2.43;proto=https;ext="a,b;c=\\"d\\""')).toEqual([{ from: '192.0.2.43', isSecure: true }])
  })

  it('counts as one network for a household', () => {
    expect(networkOf('203.0.113.7')).toBe('203.0.113.7')
    expect(networkOf('2001:db8:cafe:1::17')).toBe(networkOf('2001:0db8:cafe:0001:ffff:1:2:3'))
    expect(networkOf('2001:db8:cafe:2::17')).not.toBe(networkOf('2001:db8:cafe:1::17'))
  })

  it.each(['10.1.0.0/33', 'proxy.example', '10.1', '10.1.0.0/x'])('refuses the setting %s by name', (part) => {
    expect(() => trustedProxies(`127.0.0.1, ${part}`)).toThrow(`"${part}"`)
  })
})
