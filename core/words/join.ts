/** Two parts of one language as one. */
export const joinWords = <A extends { screens: object }, B extends { screens: object }>(
  one: A,
  other: B,
): Omit<A, 'screens'> & Omit<B, 'screens'> & { screens: A['screens'] & B['screens'] } => ({
  ...one,
  ...other,
  screens: { ...one.screens, ...other.screens },
})
