import { getHeader } from 'h3'
import { tooLarge, uploadLimitBytes } from '../../../../../pictures/door'
import { paidSlipSchema } from '../../../../../shared/bank'
import { refusal } from '../../../../../shared/refusal'
import { route } from '../../../../http/handle'
import { idParam, jsonHeader, limitedBytes } from '../../../../http/input'
import { runtime } from '../../../../runtime'
import { handInSlip, slipsOf } from '../../../../services/bank/paid-slips'

/** What the payer says comes beside the bytes of the paper. */
export default route(async ({ event, caller }) => {
  const id = idParam(event)
  await caller.authorise('fees.collect', { application: id })
  const said = jsonHeader(getHeader(event, 'x-lucid-slip'), paidSlipSchema)
  if (!said) throw refusal('input.header', { header: 'x-lucid-slip' })
  const { reason, outsideDates, ...input } = said
  await handInSlip(caller, runtime().inspect, id, { ...input, bytes: await limitedBytes(event, uploadLimitBytes, tooLarge) }, {
    reason,
    outsideDates,
  })
  return slipsOf(caller, id)
})
