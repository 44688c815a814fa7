/**
 * Where a deposit slip of a payer stands: nobody has looked at it; taken for good; refused; taken back by its payer; its money came by
 * itself.
 */
export type SlipState = 'waiting' | 'confirmed' | 'refused' | 'taken back' | 'arrived'
