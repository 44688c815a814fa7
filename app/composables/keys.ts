/**
 * Keys for whoever works with them: heard while a page is open, but not while somebody types or is in a dialog, nor together with keys of
 * the browser's own.
 */
export function useKeys(pressed: (event: KeyboardEvent) => void): void {
  function onKey(event: KeyboardEvent) {
    const target = event.target as HTMLElement | null
    if (event.ctrlKey || event.metaKey || event.altKey || target?.closest('input, textarea, select, [contenteditable], [role="dialog"]')) {
      return
    }
    pressed(event)
  }
  onMounted(() => window.addEventListener('keydown', onKey))
  onBeforeUnmount(() => window.removeEventListener('keydown', onKey))
}
