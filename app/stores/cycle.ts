import { defineStore } from 'pinia'
import type { Band } from '~~/shared/applications'
import type { Notice } from '~~/core/notice/schema'

const lastCycle = 'lucid-cycle'
const lastLanguage = 'lucid-notice-language'

/** The language in which the notice is read; `again` reads it anew. */
function useNoticeLanguage(again: () => Promise<void>) {
  /** The language in which the notice is read, where it has several; the office reads it as it is written. */
  const readIn = ref(localStorage.getItem(lastLanguage))
  const noticeAt = (wanted: string) => `/api/cycles/${wanted}/notice${readIn.value ? `?in=${encodeURIComponent(readIn.value)}` : ''}`
  async function readNoticeIn(language: string): Promise<void> {
    readIn.value = language
    localStorage.setItem(lastLanguage, language)
    // Letters come in it, too.
    const session = useSessionStore()
    if (session.principal?.kind === 'candidate') await callApi('/api/own/language', { method: 'PUT', body: { language } })
    await again()
  }
  /** Reads the notice as the candidate does whose page is looked at, and as before once nobody's is. */
  async function readNoticeAs(other: { language: string | null } | null): Promise<void> {
    readIn.value = other ? other.language : localStorage.getItem(lastLanguage)
    await again()
  }
  return { readIn, noticeAt, readNoticeIn, readNoticeAs }
}

/** The cycle in work: its notice, and the band with its counts, asked for anew every few seconds while the page is seen. */
export const useCycleStore = defineStore('cycle', () => {
  const code = ref<string | null>(null)
  const notice = shallowRef<Notice | null>(null)
  const version = ref(0)
  const band = shallowRef<Band | null>(null)

  const cycles = shallowRef<{ code: string, title: string }[]>([])

  /** Reads the cycle once; `anew` after the notice was amended. The one last worked in comes back. */
  async function load(anew = false): Promise<void> {
    if (notice.value && !anew) return
    const session = useSessionStore()
    if (!session.may('cycles.read')) return
    cycles.value = await callApi<{ code: string, title: string }[]>('/api/cycles')
    if (!session.may('notice.read')) return
    const kept = code.value ?? localStorage.getItem(lastCycle)
    const chosen = cycles.value.find(c => c.code === kept) ?? cycles.value[0]
    if (chosen) await choose(chosen.code)
  }
  const { readIn, noticeAt, readNoticeIn, readNoticeAs } = useNoticeLanguage(async () => {
    if (code.value) await choose(code.value)
  })
  async function choose(wanted: string): Promise<void> {
    const answer = await callApi<{ notice: Notice, version: number }>(noticeAt(wanted))
    code.value = wanted
    version.value = answer.version
    notice.value = answer.notice
    localStorage.setItem(lastCycle, wanted)
    await refreshBand()
  }
  /** The notice of the cycle last worked in, where none is there yet; nothing where that is gone. */
  async function recall(): Promise<void> {
    const kept = localStorage.getItem(lastCycle)
    if (kept && !notice.value) await choose(kept).catch(() => undefined)
  }
  /** Asks for that notice before it is known who is signed in. */
  function askEarlyForLast(): void {
    const kept = localStorage.getItem(lastCycle)
    if (kept && !notice.value) askEarly(noticeAt(kept))
  }
  async function refreshBand(): Promise<void> {
    if (code.value && useSessionStore().may('cycles.read')) band.value = await callApi<Band>(`/api/cycles/${code.value}/band`)
  }
  function path(rest: string): string {
    return `/api/cycles/${code.value}/${rest}`
  }
  return {
    code,
    cycles,
    notice,
    version,
    band,
    load,
    choose,
    recall,
    askEarlyForLast,
    refreshBand,
    path,
    readIn,
    readNoticeIn,
    readNoticeAs,
  }
})
