import type { ImageView } from '~~/shared/applications'
import type { UploadNote } from '~~/shared/pictures'
import type { Verdict } from '~~/core/finding/finding'
import type { Edit } from '~~/core/imaging/fit'
import type { Permit } from './act'
import { takenAtMost } from '~~/core/imaging/picture'
import { tooManyBytes } from '~~/core/imaging/too-large'

/** Sends the files that something was made of after it, so that a slow line keeps nobody waiting. */
function useOriginals(added: () => void) {
  const following = ref('')
  const followers = ref(0)

  async function follow(imageId: string, originals: readonly File[]) {
    const one = originals.length === 1
    following.value = say('house.theFileAsChosenFollows', { hasOne: String(Boolean(one)) })
    followers.value += 1
    try {
      for (const original of originals) await sendOriginal(imageId, original)
      following.value = ''
      added()
    } catch {
      following.value = say('house.theFileAsChosen', { hasOne: String(Boolean(one)) })
    } finally {
      followers.value -= 1
    }
  }

  async function sendOriginal(imageId: string, original: File): Promise<void> {
    for (;;) {
      try {
        await callApi(`/api/images/${imageId}/original`, { method: 'PUT', bytes: original })
        return
      } catch (error) {
        if (!isOffline(error)) throw error
        await lineBack()
      }
    }
  }
  return { following, isFollowing: computed(() => followers.value > 0), follow }
}

/** Why an officer sends it, where they had to say so. */
function givenBy(permit: Permit | null): Pick<UploadNote, 'given'> {
  if (!permit?.reason) return {}
  return { given: { reason: permit.reason, ...(permit.outsideDates ? { outsideDates: true as const } : {}) } }
}

/** Asks before the page is closed while something is under way that would end with it. */
function useHeldOpen(isUnderWay: () => boolean) {
  const hold = (event: BeforeUnloadEvent) => {
    if (isUnderWay()) event.preventDefault()
  }
  onMounted(() => window.addEventListener('beforeunload', hold))
  onBeforeUnmount(() => window.removeEventListener('beforeunload', hold))
}

/**
 * Sends what was chosen for one slot of an application, and after it the files that it was made of. Without a connection it is kept on
 * this screen and sent when the office can be reached again; a second sending of what had arrived makes no second version.
 *
 * @param file what stands in the slot now; one that the office has not measured yet is asked for again.
 * @param added is told whenever the office knows more of the slot.
 */
export function useUpload(applicationId: string, slot: string, file: () => ImageView | undefined, added: () => void) {
  const busy = ref(false)
  /** Of an officer who acts outside the dates: why, as the sheet was told. */
  const permit = inject<Ref<Permit | null>>('permit', ref(null))
  /** Where files go: to the application, or to the correction that is being written. */
  const into = inject('files-into', 'images')
  const refusal = ref('')
  const lineLost = ref(false)
  /** Why it is not sent yet. */
  const waiting = computed(() => lineLost.value ? say('house.noConnectionToTheOfficeThe') : '')
  const { following, isFollowing, follow } = useOriginals(added)
  let turn = 0

  /** Whether all files are light enough to be looked at; says why not. */
  function light(files: readonly File[]): boolean {
    const heavy = files.find(({ size }) => size > takenAtMost.bytes)
    refusal.value = heavy ? `${heavy.name}: ${problemText(pageRefusal(tooManyBytes(heavy.size)))}` : ''
    return !heavy
  }

  /** Whether it was taken and nothing else was chosen meanwhile. `originals` follow behind, so that a slow line keeps nobody waiting. */
  async function send(content: Blob, edits: Edit[], verdicts: Record<string, Verdict>, originals: readonly File[]): Promise<boolean> {
    const own = turn += 1
    const note: UploadNote = { edits, verdicts, ...givenBy(permit.value) }
    refusal.value = ''
    while (own === turn) {
      busy.value = true
      try {
        const view = await callApi<ImageView>(`/api/applications/${applicationId}/${into}/${slot}`, {
          method: 'PUT',
          bytes: content,
          headers: { 'x-lucid-picture': JSON.stringify(note) },
        })
        const current = own === turn
        if (current) forget()
        added()
        if (originals.length > 0) void follow(view.id, originals)
        return current
      } catch (error) {
        if (!isOffline(error)) {
          forget()
          refusal.value = problemText(error)
          return false
        }
        lineLost.value = true
      } finally {
        busy.value = false
      }
      await lineBack()
    }
    return false
  }

  /** Ends the waiting for a connection: what waits was dropped, or is sent anew. */
  function forget() {
    turn += 1
    lineLost.value = false
  }

  // Another page of the application lets the sending go on; closing it all would end it.
  useHeldOpen(() => busy.value || lineLost.value || isFollowing.value)

  watch(file, (present) => {
    if (present && !present.measured) setTimeout(added, 2500)
  }, { immediate: true })

  return { busy, refusal, waiting, following, light, send, forget }
}
