import { z } from 'zod'
import { defineWork } from '../../jobs/define'
import { matchOpenLines } from './matching'

/** Lines of bank statements led to whose money they are. */
export const matchLinesWork = defineWork({
  kind: 'match-lines',
  permission: 'bank.work',
  input: z.strictObject({}),
  run: (caller, { tell }) => matchOpenLines(caller, tell),
})
