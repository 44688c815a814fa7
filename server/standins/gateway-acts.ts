/** How people pay at the simulated gateway. */
export const gatewayMethods = ['card', 'net banking', 'wallet'] as const
export type GatewayMethod = typeof gatewayMethods[number]
/**
 * What becomes of an order. `silent` charges and never calls back; `twice` calls back twice; `late` charges, and calls only when the time
 * to pay is long over; `less` charges less than was asked for; `forged` leaves the order open, and somebody else calls in the gateway's
 * name; `back` is the payer's bank, which takes a charge again.
 */
export const gatewayActs = ['pay', 'decline', 'silent', 'twice', 'late', 'less', 'forged', 'back'] as const
export type GatewayAct = typeof gatewayActs[number]
