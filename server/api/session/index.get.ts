import { route } from '../../http/handle'

/** Who is signed in, with the token that this session's pages send along; nulls when nobody is. */
export default route(({ session }) => ({ principal: session?.principal ?? null, csrfToken: session?.csrfToken ?? null }))
