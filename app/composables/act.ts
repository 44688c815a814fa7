import type { ActStanding } from '~~/core/application/acts/judge'
import type { ActId } from '~~/core/application/acts/rule'
import type { Dossier } from '~~/shared/applications'
import type { NamedAct } from '~~/shared/acts'

/** What somebody says who acts: a reason, and that they know the dates stand against it. */
export interface Permit {
  reason?: string
  outsideDates?: boolean
}

/** The standing of one act on an application, as the office judged it. */
export const standingOf = (dossier: Dossier | null | undefined, act: ActId): ActStanding | undefined =>
  dossier?.acts.find(one => one.act === act)

/** Whether an act can be done now, with or without a reason for acting outside the dates. */
export const canAct = (dossier: Dossier | null | undefined, act: ActId): boolean => standingOf(dossier, act)?.refusal === null

/** Why an act cannot be done now, in words; empty when it can. */
export function whyNot(standing: ActStanding | undefined): string {
  const refused = standing?.refusal
  return refused ? useWords().refusals.refusalText(refused.code, refused.parameters) : ''
}

interface Answered {
  proposal: string | null
  dossier: Dossier | null
}

/**
 * Carries out acts on one application by their names. A press whose answer was lost is sent again under the same number, so that it is done
 * once; while one is under way another press does nothing.
 */
export function useAct(applicationId: string, done: (dossier: Dossier) => void) {
  const busy = ref(false)
  let pending: { key: string, request: string } | null = null

  async function perform(act: NamedAct, input: Record<string, unknown> = {}): Promise<boolean> {
    if (busy.value) return false
    busy.value = true
    const key = JSON.stringify([act, input])
    if (pending?.key !== key) pending = { key, request: crypto.randomUUID() }
    const { request } = pending
    const good = await attempt(async () => {
      try {
        const { proposal, dossier } = await callApi<Answered>(`/api/applications/${applicationId}/acts/${act}`, {
          method: 'POST',
          body: input,
          headers: { 'x-lucid-request': request },
        })
        pending = null
        if (dossier) done(dossier)
        if (proposal) tell(say('house.aSecondPersonHasToConfirm'))
      } catch (error) {
        if (!isOffline(error)) pending = null
        throw error
      }
    })
    busy.value = false
    return good
  }
  return { busy, perform }
}
