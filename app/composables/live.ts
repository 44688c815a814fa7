/**
 * Reads again whenever an application has changed after what the page knows of it (`known`: the moment of its last change), for as long as
 * the page is open and seen. The browser connects anew by itself when the line was cut, and is told at once what it has missed; whoever has
 * no line loses nothing.
 */
export function useLive(id: string, isWanted: () => boolean, known: () => string | undefined, refresh: () => Promise<void>): void {
  let source: EventSource | null = null
  // A browser keeps few lines open to one place: pages that nobody sees leave them to others.
  const isShown = ref(true)
  const look = () => {
    isShown.value = document.visibilityState === 'visible'
  }
  look()
  document.addEventListener('visibilitychange', look)
  function stop() {
    source?.close()
    source = null
  }
  watch(() => isWanted() && isShown.value, (wanted) => {
    stop()
    if (!wanted) return
    source = new EventSource(`/api/applications/${id}/live`)
    source.addEventListener('changed', ({ data }: MessageEvent<string>) => {
      if (data !== known()) void refresh().catch(() => undefined)
    })
  }, { immediate: true })
  onScopeDispose(() => {
    stop()
    document.removeEventListener('visibilitychange', look)
  })
}
