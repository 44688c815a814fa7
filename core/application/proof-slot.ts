/** The slot of the paper that a rule of corrections wants. */
export const proofSlot = (rule: { id: string }): string => `proof.${rule.id}`
