export const fees = {
  theFeeShowsAsSoonAs: 'The fee shows as soon as the category is answered.',
  total: 'Total',
  received: 'Received',
  toBeRefunded: 'To be refunded',
  stillDue: 'Still due',
  paidByPayer: '{payer} pays this fee, not the candidate. If it does not come in time, the candidate may pay it instead.',
} as const
