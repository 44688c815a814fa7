import { defineStore } from 'pinia'
import { may, type Permission, type Relation } from '~~/core/access/permissions'
import type { Principal } from '~~/core/access/principal'
import type { SignedInView } from '~~/shared/people'

const candidate: Principal = { id: '', kind: 'candidate', name: '', roles: [], venues: [] }

/** Who is signed in. The cookie that proves it is not readable here; the token guards acts against other sites. */
export const useSessionStore = defineStore('session', () => {
  const principal = ref<SignedInView | null>(null)
  const csrfToken = ref<string | null>(null)
  const loaded = ref(false)
  const expired = ref(false)
  /** The application that somebody of the office looks at as its candidate does. */
  const looksAs = ref<string | null>(null)

  function take(answer: { principal: SignedInView | null, csrfToken: string | null }): void {
    principal.value = answer.principal
    csrfToken.value = answer.csrfToken
    loaded.value = true
    expired.value = false
  }
  /** Asks once who is signed in; `again` after something about the account has changed. */
  async function load(again = false): Promise<void> {
    if (again || !loaded.value) take(await callApi('/api/session'))
  }
  async function signIn(signInName: string, password: string, code?: string): Promise<void> {
    const answer = await callApi<{ principal: SignedInView, csrfToken: string, others: number }>('/api/session', {
      method: 'POST',
      body: { signInName, password, code: code || undefined },
    })
    take(answer)
    if (answer.others > 0) tell(say('entry.signedInElsewhere', { count: answer.others }))
  }
  async function signOut(): Promise<void> {
    await callApi('/api/session', { method: 'DELETE' })
    dropPictures()
    forgetOwn(principal.value)
    take({ principal: null, csrfToken: null })
  }
  const allowed = (permission: Permission, relations: readonly Relation[] = []) =>
    principal.value !== null && may(looksAs.value === null ? principal.value : candidate, permission, relations)
  return { principal, csrfToken, loaded, expired, looksAs, load, take, signIn, signOut, may: allowed }
})
