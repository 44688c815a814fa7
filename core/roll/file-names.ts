import { nameKey } from '../identity/names'
import { imageKindsOf, imageRuleOf } from '../notice/image-rules'
import type { Notice } from '../notice/schema'

/** Whose a picture or paper of a roll is, and which: told by its name and its folders, as people name such files. */

/** A slot with what it is called in names of files: each a run of words. */
export interface SlotName {
  id: string
  title: string
  names: readonly (readonly string[])[]
}

/** Other words that people use; common practice, no source. */
const alsoCalled: Readonly<Record<string, readonly string[]>> = {
  photograph: ['photo', 'pic', 'picture', 'portrait', 'image', 'foto'],
  signature: ['sign', 'sig', 'signed'],
  thumb: ['thumb impression', 'fingerprint'],
}

/** The slots of a notice, pictures first. */
export function slotNames(notice: Notice): SlotName[] {
  const slots = [...imageKindsOf(notice).map(kind => ({ id: kind as string, title: imageRuleOf(notice, kind).title })),
    ...notice.documents.map(({ id, title }) => ({ id, title }))]
  return slots.map(({ id, title }) => ({
    id,
    title,
    names: [id, title, ...alsoCalled[id] ?? []].map(wordsOf).filter(words => words.length > 0),
  }))
}

/**
 * `person` is what is left of the name once the slot is taken out, as `personKey` has it; empty where nothing is left. A slot that no word
 * tells is null.
 */
export interface PlacedFile {
  person: string
  slot: string | null
}

/**
 * Reads a path such as `signatures/0042.png`, `0042_photo.jpg` or `0042/photograph.jpg`. The words of the file's own name count before
 * those of its folders, the nearest first.
 */
export function placeFile(path: string, slots: readonly SlotName[]): PlacedFile {
  const parts = path.split(/[/\\]/).filter(part => part !== '')
  const name = (parts.at(-1) ?? '').replace(/\.[^.]{1,5}$/, '')
  const levels = [name, ...parts.slice(0, -1).reverse()].map(wordsOf)
  let slot: string | null = null
  let person = ''
  for (const words of levels) {
    const found = slotWithin(words, slots)
    slot ??= found?.slot ?? null
    if (person === '') person = personKey((found?.rest ?? words).join(' '))
    if (slot !== null && person !== '') break
  }
  return { person, slot }
}

/**
 * What people are told apart by in names of files: letters and digits without blanks, signs and capitals, and a number without the zeros
 * before it.
 */
export function personKey(text: string): string {
  const plain = wordsOf(text).join('')
  return /^\d+$/.test(plain) ? plain.replace(/^0+(?=\d)/, '') : plain
}

/** The name of a file without its folders, as a column of the roll may hold it: capitals and ending make no difference. */
export const bareName = (path: string): string => (path.split(/[/\\]/).at(-1) ?? '').replace(/\.[^.]{1,5}$/, '').trim().toLowerCase()

/** Words of a name; a digit and a letter beside each other part two words only where the letters are behind: `0042photo`. */
const wordsOf = (text: string): string[] =>
  nameKey(text.replace(/([a-z])([A-Z])/g, '$1 $2').replace(/(\d)([A-Za-z]{3,})/g, '$1 $2')).split(/[^\p{L}\p{M}\p{N}]+/u).filter(word =>
    word !== ''
  )

const singular = (word: string) => word.length > 3 ? word.replace(/s$/, '') : word

function slotWithin(words: readonly string[], slots: readonly SlotName[]): { slot: string, rest: string[] } | null {
  let best: { slot: string, from: number, length: number } | null = null
  for (const { id, names } of slots) {
    for (const name of names) {
      // The last of a name's words says what it is: 0042_photo.
      for (let from = words.length - name.length; from >= 0; from -= 1) {
        if (name.every((word, i) => singular(words[from + i] ?? '') === singular(word)) && name.length > (best?.length ?? 0)) {
          best = { slot: id, from, length: name.length }
        }
      }
    }
  }
  return best && { slot: best.slot, rest: [...words.slice(0, best.from), ...words.slice(best.from + best.length)] }
}
