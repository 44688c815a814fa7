import { defineStore } from 'pinia'
import type { Band } from '~~/shared/applications'
import type { Notice } from '~~/core/notice/schema'

/** The cycle in work: its notice, and the band with its counts, asked for anew every few seconds while the page is seen. */
export const useCycleStore = defineStore('cycle', () => {
  const code = ref<string | null>(null)
  const notice = shallowRef<Notice | null>(null)
  const version = ref(0)
  const band = shallowRef<Band | null>(null)

  /** Reads the cycle once; `anew` after the notice was amended. */
  async function load(anew = false): Promise<void> {
    if (notice.value && !anew) return
    const cycles = await callApi<{ code: string, title: string }[]>('/api/cycles')
    const first = cycles[0]
    if (!first) return
    const answer = await callApi<{ notice: Notice, version: number }>(`/api/cycles/${first.code}/notice`)
    code.value = first.code
    version.value = answer.version
    notice.value = answer.notice
    await refreshBand()
  }
  async function refreshBand(): Promise<void> {
    if (code.value) band.value = await callApi<Band>(`/api/cycles/${code.value}/band`)
  }
  function path(rest: string): string {
    return `/api/cycles/${code.value}/${rest}`
  }
  return { code, notice, version, band, load, refreshBand, path }
})
