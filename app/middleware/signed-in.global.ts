/** Every page but these few needs a session; the page asked for is opened after signing in. */
const open = ['/sign-in', '/check', '/standins']

export default defineNuxtRouteMiddleware(async (to) => {
  if (open.some(path => to.path.startsWith(path))) return
  const session = useSessionStore()
  await session.load()
  if (!session.actor) return navigateTo({ path: '/sign-in', query: to.fullPath === '/' ? {} : { then: to.fullPath } })
  await useCycleStore().load()
})
