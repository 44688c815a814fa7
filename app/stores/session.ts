import { defineStore } from 'pinia'
import { permitted, type Permission, type Role } from '~~/shared/roles'

interface Actor { id: string, name: string, roles: Role[] }

/** Who is signed in. The cookie that proves it is not readable here; the token guards acts against other sites. */
export const useSessionStore = defineStore('session', () => {
  const actor = ref<Actor | null>(null)
  const csrfToken = ref<string | null>(null)
  const loaded = ref(false)
  const expired = ref(false)

  function take(answer: { actor: Actor | null, csrfToken: string | null }): void {
    actor.value = answer.actor
    csrfToken.value = answer.csrfToken
    loaded.value = true
    expired.value = false
  }
  async function load(): Promise<void> {
    if (!loaded.value) take(await callApi('/api/session'))
  }
  async function signIn(signInName: string, password: string): Promise<void> {
    take(await callApi('/api/session', { method: 'POST', body: { signInName, password } }))
  }
  async function signOut(): Promise<void> {
    await callApi('/api/session', { method: 'DELETE' })
    take({ actor: null, csrfToken: null })
  }
  const may = (permission: Permission) => actor.value !== null && permitted(actor.value.roles, permission)
  return { actor, csrfToken, loaded, expired, load, signIn, signOut, may }
})
