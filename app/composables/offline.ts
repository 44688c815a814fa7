let loading: Promise<typeof import('~/offline/kept')> | null = null

/** What keeps pages and answers for a time without a line; asked for once a page stands. */
export const useOffline = () => loading ??= import('~/offline/kept')

/** Since when what is shown has not been asked of the office, because it could not be reached; null while it can. */
export const keptSince = ref<string | null>(null)

/** Questions whose last answer is kept: who is signed in, one's own applications, and the notices that they are for. */
export const isKept = (path: string) => /^\/api\/(session|own|applications\/[\w-]+|cycles\/\w+\/notice)$/.test(path)
