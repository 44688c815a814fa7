/** Every page but these few needs a session; the page asked for is opened after signing in. */
const open = ['/sign-in', '/check', '/standins', '/welcome']

export default defineNuxtRouteMiddleware(async (to) => {
  if (open.some(path => to.path.startsWith(path))) return
  const session = useSessionStore()
  await session.load()
  if (!session.principal) return navigateTo({ path: '/sign-in', query: to.fullPath === '/' ? {} : { then: to.fullPath } })
  // Until a second factor is set up that a role requires, only the own account is open.
  if (session.principal.needsFactor) return to.path === '/account' ? undefined : navigateTo('/account')
  await useCycleStore().load()
})
