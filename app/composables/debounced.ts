/** A call that waits until nothing has asked for it for some milliseconds. */
export function useDebounced(act: () => void, milliseconds: number): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined
  onScopeDispose(() => clearTimeout(timer))
  return () => {
    clearTimeout(timer)
    timer = setTimeout(act, milliseconds)
  }
}
