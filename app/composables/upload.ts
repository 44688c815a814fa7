import type { ImageView } from '~~/shared/applications'
import type { UploadNote } from '~~/shared/pictures'
import type { Verdict } from '~~/core/finding/finding'
import type { Edit } from '~~/core/imaging/fit'
import { takenAtMost } from '~~/core/imaging/picture'
import { tooManyBytesWords } from '~~/core/words/en/pictures'

/**
 * Sends what was chosen for one slot of an application, and after it the files that it was made of.
 *
 * @param file what stands in the slot now; one that the office has not measured yet is asked for again.
 * @param added is told whenever the office knows more of the slot.
 */
export function useUpload(applicationId: string, slot: string, file: () => ImageView | undefined, added: () => void) {
  const busy = ref(false)
  const refusal = ref('')
  const following = ref('')

  /** Whether all files are light enough to be looked at; says why not. */
  function light(files: readonly File[]): boolean {
    const heavy = files.find(({ size }) => size > takenAtMost.bytes)
    refusal.value = heavy ? `${heavy.name}: ${tooManyBytesWords(heavy.size, takenAtMost.bytes)}` : ''
    return !heavy
  }

  /** Whether it was taken. `originals` follow behind, so that a slow line keeps nobody waiting. */
  async function send(content: Blob, edits: Edit[], verdicts: Record<string, Verdict>, originals: readonly File[]): Promise<boolean> {
    refusal.value = ''
    busy.value = true
    try {
      const note: UploadNote = { edits, verdicts }
      const view = await callApi<ImageView>(`/api/applications/${applicationId}/images/${slot}`, { method: 'PUT', bytes: content, headers: { 'x-lucid-picture': JSON.stringify(note) } })
      added()
      if (originals.length > 0) void follow(view.id, originals)
      return true
    } catch (error) {
      refusal.value = problemText(error)
      return false
    } finally {
      busy.value = false
    }
  }

  async function follow(imageId: string, originals: readonly File[]) {
    const one = originals.length === 1
    following.value = `${one ? 'The file as chosen follows' : 'The files as chosen follow'}; you can go on.`
    try {
      for (const original of originals) await callApi(`/api/images/${imageId}/original`, { method: 'PUT', bytes: original })
      following.value = ''
      added()
    } catch {
      following.value = `${one ? 'The file as chosen' : 'The files as chosen'} could not be sent along. What was made of ${one ? 'it' : 'them'} is stored and counts.`
    }
  }

  watch(file, (present) => {
    if (present && !present.measured) setTimeout(added, 2500)
  }, { immediate: true })

  return { busy, refusal, following, light, send }
}
