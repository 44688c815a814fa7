/** The slot of the paper that a rule of corrections wants; it belongs to the correction and never to the form. */
export const proofSlot = (rule: { id: string }): string => `proof.${rule.id}`
export const isProof = (slot: string): boolean => slot.startsWith('proof.')
