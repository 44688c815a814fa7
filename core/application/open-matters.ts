import type { Finding } from '../finding/finding'
import { isFeeClear, type Tracks } from './tracks'
import type { Notice } from '../notice/schema'
import type { Answers } from './answers'
import { emptySlots, slotsOf } from './slots'

/** Something that keeps an application from moving on: who must act and what clears it. Words come from the code. */
export interface OpenMatter {
  code: 'sheet' | 'image-missing' | 'image-failed' | 'submit' | 'fee' | 'confirming' | 'scrutiny' | 'returned' | 'placement' | 'publish' | 'card'
  who: 'candidate' | 'accounts' | 'scrutineer' | 'officer'
  about: string
  parameters: Record<string, string | number>
}

export interface Standing {
  notice: Notice
  tracks: Tracks
  sheetFindings: Finding[]
  answers: Answers
  /** Findings on the current version in each slot; an empty slot is absent. */
  files: Partial<Record<string, Finding[]>>
}

/** Everything open on an application, the nearest step first. An application whose card is issued has none. */
export function openMatters(standing: Standing): OpenMatter[] {
  const { tracks } = standing
  if (tracks.form === 'withdrawn' || tracks.form === 'lapsed' || tracks.scrutiny === 'refused') return []
  const matters: OpenMatter[] = []
  const add = (code: OpenMatter['code'], who: OpenMatter['who'], about = '', parameters: OpenMatter['parameters'] = {}) =>
    matters.push({ code, who, about, parameters })
  if (standing.sheetFindings.length > 0) {
    add('sheet', 'candidate', standing.sheetFindings[0]?.about, { count: standing.sheetFindings.length })
  }
  const lacking = new Set(emptySlots(standing.notice, standing.answers, standing.files).map(slot => slot.id))
  for (const { id, title } of slotsOf(standing.notice, standing.answers)) {
    if (lacking.has(id)) add('image-missing', 'candidate', id, { title })
    else if (standing.files[id]?.some(f => f.verdict === 'fail') && tracks.scrutiny !== 'accepted') add('image-failed', 'candidate', id, { title })
  }
  if (tracks.form === 'drafting') add('submit', 'candidate')
  if (tracks.fee === 'confirming') add('confirming', 'accounts')
  else if (!isFeeClear(tracks.fee)) add('fee', 'candidate')
  if (tracks.scrutiny === 'returned') add('returned', 'candidate')
  if (tracks.form === 'submitted' && isFeeClear(tracks.fee)) addAfterFee(tracks, add)
  return matters
}

function addAfterFee(tracks: Tracks, add: (code: OpenMatter['code'], who: OpenMatter['who']) => void): void {
  if (tracks.scrutiny === 'waiting' || tracks.scrutiny === 'not started') add('scrutiny', 'scrutineer')
  else if (tracks.scrutiny !== 'accepted') return
  else if (tracks.placement === 'unplaced') add('placement', 'officer')
  else if (tracks.placement === 'placed') add('publish', 'officer')
  else if (tracks.card !== 'issued' && tracks.card !== 'replaced') add('card', 'officer')
}
