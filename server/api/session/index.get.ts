import { route } from '../../http/handle'

/** Who is signed in, with the token that this session's pages send along; nulls when nobody is. */
export default route(({ context, csrfToken }) => Promise.resolve({ actor: context.actor, csrfToken }))
