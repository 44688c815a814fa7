/**
 * A count with its unit as a notice writes it, in the plural: “1 attempt”, “3 attempts”, “1.5 years”.
 *
 * @param value a number as text or number; its sign is of no weight.
 * @param unit the unit in the plural, as the notice names it.
 */
export const counted = (value: string | number, unit: string): string =>
  `${value} ${Math.abs(Number(value)) === 1 ? unit.replace(/s$/, '') : unit}`
