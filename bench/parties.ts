import { allocate } from '../core/allocation/allocate'
import { noCity } from '../core/allocation/instance'
import { usualCosts } from '../core/allocation/policy'
import { madeParties } from './party-instances'

/**
 * Several papers, parties and reserved seats at size: time, cost, proven bound and the gap between them.
 * `npx tsx bench/parties.ts [people cities]`; without arguments the whole table.
 */
const sizes: [number, number][] = process.argv[2]
  ? [[Number(process.argv[2]), Number(process.argv[3])]]
  : [[500, 8], [2000, 12], [5000, 24], [60_000, 30]]
console.log('| people x cities | CPU | cost | bound | gap | without a seat |\n|---|---|---|---|---|---|')
for (const [people, cities] of sizes) {
  const before = process.cpuUsage()
  const { cost, bound, cityOf } = allocate(
    madeParties(3, people, cities, 1.08),
    { kind: 'best-fit', seed: 0, staying: 0, ...usualCosts },
    () => true,
    'thorough',
  )
  const { user, system } = process.cpuUsage(before)
  console
    .log(`| ${people.toLocaleString('en-GB')} x ${cities} | ${((user + system) / 1e6).toFixed(1)} s | ${cost.toLocaleString('en-GB')} | ${
      bound.toLocaleString('en-GB')
    } | ${(100 * (cost - bound) / bound).toFixed(2)} % | ${cityOf.filter(k => k === noCity).length} |`)
}
