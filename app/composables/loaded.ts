/** Asks for the house's faces, once. */
export function askForFaces(): void {
  if (document.getElementById('faces')) return
  document.head.append(Object.assign(document.createElement('link'), { id: 'faces', rel: 'stylesheet', href: '/type/faces.css' }))
}

/**
 * Loads what a page shows when it opens. Without a connection it says so and loads by itself once the office can be reached again; any
 * other refusal stands until the page is asked anew.
 *
 * @returns what went wrong, in words, and a way to load again.
 */
export function useLoaded(load: () => Promise<void>) {
  const failure = ref('')
  let gone = false
  onScopeDispose(() => {
    gone = true
  })

  async function reload(): Promise<void> {
    for (;;) {
      try {
        await load()
        failure.value = ''
        askForFaces()
        return
      } catch (error) {
        failure.value = problemText(error)
        if (!isOffline(error)) return
      }
      await lineBack()
      if (gone) return
    }
  }
  onMounted(reload)
  return { failure, reload }
}
