/**
 * Addresses under which pictures are shown that are only in the page. They hold them in memory until they are given back: at the latest
 * with the part of the page that asked.
 */
export function useAddresses() {
  const given = new Set<string>()
  function addressOf(picture: Blob): string {
    const url = URL.createObjectURL(picture)
    given.add(url)
    return url
  }
  function giveBack(urls: Iterable<string>): void {
    for (const url of [...urls]) {
      URL.revokeObjectURL(url)
      given.delete(url)
    }
  }
  onScopeDispose(() => giveBack(given))
  return { addressOf, giveBack }
}
