/**
 * Leaves for the gateway's page, told where to send the payer back. One that stands beside the office is found under the name by which the
 * office was.
 */
export function leaveForGateway(page: string): void {
  const url = new URL(page)
  if (['127.0.0.1', 'localhost'].includes(url.hostname)) url.hostname = location.hostname
  url.searchParams.set('office', location.origin)
  location.assign(url)
}
