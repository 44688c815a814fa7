/**
 * `amount` minor units, or any whole number, in proportion to `weights` (whole, not all 0): rounded down, and what is left over to the
 * first. Sums to `amount`.
 */
export function inProportion(amount: number, weights: readonly number[]): number[] {
  const whole = weights.reduce((sum, weight) => sum + weight, 0)
  const shares = weights.map(weight => Math.floor(amount * weight / whole))
  const [first = 0, ...others] = shares
  return [first + amount - shares.reduce((sum, share) => sum + share, 0), ...others]
}

/**
 * How an order that was opened for several people is dealt out when `before` minor units of it had come (or gone back) and `amount` more
 * do: in their order, each up to their part, and from the first again once all parts are full. What went back is dealt the same way, so
 * that nobody ever loses more than they got. Sums to `amount`.
 *
 * @param parts what the order asks for, person by person; above 0.
 */
export function dealtOut(parts: readonly number[], before: number, amount: number): number[] {
  const [old, fresh] = [filled(parts, before), filled(parts, before + amount)]
  return parts.map((_, i) => (fresh[i] ?? 0) - (old[i] ?? 0))
}

function filled(parts: readonly number[], amount: number): number[] {
  const whole = parts.reduce((sum, part) => sum + part, 0)
  let rest = amount % whole
  return parts.map((part) => {
    const own = Math.min(part, rest)
    rest -= own
    return Math.floor(amount / whole) * part + own
  })
}
