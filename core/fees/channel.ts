import type { FeeSchedule, PayingWay } from '../notice/schema'

/** What a way of paying costs on top, in minor units: the charge, and the tax on it. */
export interface WayCost {
  way: PayingWay
  charge: number
  tax: number
}

/** What somebody paid on top for the way of paying, with the order that carried it: only what really came counts. */
export interface ChannelCharge extends WayCost {
  order: string
}

/** A share in hundredths of a percent, rounded half up to the minor unit. */
const shareOf = (amount: number, basisPoints: number): number => Math.floor((amount * basisPoints + 5000) / 10_000)

/**
 * The ways of paying `due` minor units online, in the notice's order; empty where the gateway offers its own. The share is of what is paid,
 * the tax of the rounded charge; what the office bears costs nothing.
 */
export function payingCosts({ channels }: Pick<FeeSchedule, 'channels'>, due: number): WayCost[] {
  return channels.map(({ way, fixed, shareBasisPoints, taxBasisPoints, borneBy }) => {
    const charge = borneBy === 'candidate' ? fixed + shareOf(due, shareBasisPoints) : 0
    return { way, charge, tax: shareOf(charge, taxBasisPoints) }
  })
}

/** The way that is taken where nobody has said one: that which costs least, of equal ones the first. */
export function cheapestOf(costs: readonly WayCost[]): WayCost | null {
  return costs.reduce<WayCost | null>((best, one) => best && best.charge + best.tax <= one.charge + one.tax ? best : one, null)
}

/**
 * What of a charge is kept for the way of paying when `amount` comes while `due` is still to pay: the fee goes first, and where nothing was
 * due any more all of the money is owed back. The tax of a part is its share, rounded half up.
 */
export function costCarried({ way, charge, tax }: WayCost, amount: number, due: number): WayCost {
  const whole = charge + tax
  const carried = due > 0 ? Math.min(whole, Math.max(0, amount - due)) : 0
  const taxCarried = carried === 0 ? 0 : Math.floor((2 * carried * tax + whole) / (2 * whole))
  return { way, charge: carried - taxCarried, tax: taxCarried }
}
