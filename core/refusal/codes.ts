import { cycleKinds } from './kinds/cycles'
import { fileKinds } from './kinds/files'
import { formKinds } from './kinds/forms'
import { moneyKinds } from './kinds/money'
import { whoKinds } from './kinds/who'

/**
 * Every refusal by its code, with the kind that decides the HTTP status. Words come from the code and its parameters
 * (`core/words/en/refusals` and `office-refusals`). A code lasts: programs go by it.
 */
export const refusalKinds = { ...whoKinds, ...formKinds, ...moneyKinds, ...cycleKinds, ...fileKinds } as const

export type RefusalCode = keyof typeof refusalKinds
export type RefusalKind = typeof refusalKinds[RefusalCode]
export type RefusalParameters = Readonly<Record<string, string | number>>

/** Why something may not be done, as data. */
export interface RefusalReason {
  code: RefusalCode
  parameters: RefusalParameters
}
