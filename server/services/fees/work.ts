import { z } from 'zod'
import { defineWork } from '../../jobs/define'
import { assessAllAnew } from './anew'

/** Fees of all who are in, assessed anew after an amendment. */
export const assessAnewWork = defineWork({
  kind: 'assess-anew',
  permission: 'notice.amend',
  input: z.object({ review: z.uuid() }),
  run: (caller, { cycle, tell }) => assessAllAnew(caller, cycle, tell),
})
