/** Every page but these few needs a session; the page asked for is opened after signing in. */
const open = ['/sign-in', '/check', '/receipt', '/welcome', '/apply', '/endorse']
const ofCandidates = (path: string) => ['/apply', '/own', '/endorse'].some(own => path === own || path.startsWith(`${own}/`))

export default defineNuxtRouteMiddleware(async (to) => {
  // Few candidates look at their account, and on a page of its own: its words need not come with every other one.
  if (!ofCandidates(to.path) || to.path === '/own/account') await loadOfficeWords()
  if (open.some(path => to.path.startsWith(path))) return
  const session = useSessionStore()
  const isOwn = ofCandidates(to.path)
  if (isOwn && !session.loaded && typeof to.params.id === 'string') {
    askEarly(`/api/applications/${to.params.id}`)
    useCycleStore().askEarlyForLast()
  } else if (to.path === '/own' && !session.loaded) askEarly('/api/own')
  await session.load()
  if (!session.principal && isOwn) return navigateTo('/apply')
  if (!session.principal) return navigateTo({ path: '/sign-in', query: to.fullPath === '/' ? {} : { then: to.fullPath } })
  // Candidates have pages of their own, and the office has its.
  if (session.principal.kind === 'candidate') {
    return isOwn
      ? undefined
      : navigateTo(to.path.startsWith('/intake/') ? to.path.replace('/intake', '/own') : '/own')
  }
  if (isOwn) return navigateTo('/')
  // Until a second factor is set up that a role requires, only the own account is open.
  if (session.principal.needsFactor) return to.path === '/account' ? undefined : navigateTo('/account')
  await useCycleStore().load()
})
