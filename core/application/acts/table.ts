import type { Permission } from '../../access/permissions'
import { feeActs } from './fees'
import { formActs } from './forms'
import type { ActId, ActRule } from './rule'
import { scrutinyActs } from './scrutiny'
import { seatActs } from './seats'

/** Every act on an application. */
const actRules: Record<ActId, ActRule> = { ...formActs, ...feeActs, ...scrutinyActs, ...seatActs }

/** What is proposed of many people at once, on no single application. */
export const actsOnMany = ['publish-run', 'change-rooms', 'release-erasing'] as const
export type ProposedAct = ActId | typeof actsOnMany[number]
export const isOnMany = (act: ProposedAct): act is typeof actsOnMany[number] => (actsOnMany as readonly string[]).includes(act)

export const actRule = (act: ActId): ActRule => actRules[act]

/** Who may settle what somebody else has proposed: those who may do it themselves. */
export const settlePermission = (proposed: ProposedAct): Permission =>
  proposed === 'release-erasing' ? 'records.erase' : isOnMany(proposed) ? 'centres.publish' : actRules[proposed].permission
