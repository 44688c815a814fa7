import { z } from 'zod'
import { runRequestSchema } from '../../../shared/centres'
import { defineWork } from '../../jobs/define'
import { publishAsWork } from './publish'
import { runAllocation } from './runs'

export const allocationWork = defineWork({
  kind: 'allocate',
  permission: 'centres.run',
  input: runRequestSchema,
  run: (caller, { cycle, input, tools, tell }) => runAllocation(caller, cycle, input, tools.solve, tell),
})

const publishInput = z.object({
  run: z.uuid(),
  reason: z.string().max(1000).optional(),
  outsideDates: z.boolean().optional(),
  confirmed: z.object({ proposal: z.uuid(), by: z.uuid() }).optional(),
})

export const publishingWork = defineWork({
  kind: 'publish',
  permission: 'centres.publish',
  input: publishInput,
  run: async (caller, { input: { run, ...given }, tell }) => ({ ...await publishAsWork(caller, run, given, tell) }),
})
