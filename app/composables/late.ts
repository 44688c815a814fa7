/** True once a page has stood for a moment: for parts that nobody begins with, and that a slow line brings later. */
export function useLate() {
  const isLate = ref(false)
  onMounted(() =>
    setTimeout(() => {
      isLate.value = true
    }, 1500)
  )
  return isLate
}
