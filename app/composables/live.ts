/**
 * Reads again whenever an application has changed, for as long as the page is open and seen. The browser connects anew by itself when the line was cut; whoever has no line learns nothing, and loses nothing.
 */
export function useLive(id: string, isWanted: () => boolean, refresh: () => Promise<void>): void {
  let source: EventSource | null = null
  let wasCut = false
  let isFirst = true
  // A browser keeps few lines open to one place: pages that nobody sees leave them to others.
  const isShown = ref(true)
  const look = () => { isShown.value = document.visibilityState === 'visible' }
  if (import.meta.client) {
    look()
    document.addEventListener('visibilitychange', look)
  }
  function stop() {
    source?.close()
    source = null
  }
  watch(() => isWanted() && isShown.value, (wanted) => {
    stop()
    if (!wanted || import.meta.server) return
    source = new EventSource(`/api/applications/${id}/live`)
    const again = () => { void refresh().catch(() => undefined) }
    source.addEventListener('changed', again)
    // What changed while there was no line was told to nobody.
    source.addEventListener('here', () => {
      if (wasCut || !isFirst) again()
      wasCut = false
      isFirst = false
    })
    source.addEventListener('error', () => { wasCut = true })
  }, { immediate: true })
  onScopeDispose(() => {
    stop()
    if (import.meta.client) document.removeEventListener('visibilitychange', look)
  })
}
