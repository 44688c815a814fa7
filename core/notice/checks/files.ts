import { pagesAtMost } from '../../documents/document'
import { takenAtMost } from '../../imaging/picture'
import { found, pointer, type NoticeFinding } from '../finding'
import type { Notice } from '../schema'
import { imageKinds } from '../image-rules'

interface Range {
  min?: number
  max?: number
}

/** Images and documents that no file could satisfy, or that would not come through the door. */
export function fileFindings(notice: Notice): NoticeFinding[] {
  return [...imageFindings(notice), ...documentFindings(notice)]
}

function imageFindings({ images }: Notice): NoticeFinding[] {
  return imageKinds.flatMap((kind) => {
    const rule = images[kind]
    if (!rule) return []
    const at = pointer('images', kind)
    const findings = [...emptyRanges(rule, at), ...emptyRanges(rule.face ?? {}, `${at}/face`)]
    // Faces are looked for in photographs only, and only by a rule that asks for one.
    if (rule.sameFace && kind !== 'photograph') findings.push(found('image.no-face', `${at}/sameFace`, { title: rule.title }))
    if (rule.sameFace && kind === 'photograph' && !rule.face) findings.push(found('image.faces', `${at}/sameFace`))
    const { width, height, aspect } = rule
    const [narrowest, widest] = [(width.min ?? 1) / (height.max ?? Infinity), (width.max ?? Infinity) / (height.min ?? 1)]
    if (!isEmpty(width) && !isEmpty(height) && !isEmpty(aspect) && ((aspect.min ?? 0) > widest || (aspect.max ?? Infinity) < narrowest)) {
      findings.push(found('bounds.aspect', `${at}/aspect`, {
        narrowest: rounded(narrowest),
        widest: Number.isFinite(widest) ? rounded(widest) : '∞',
        min: aspect.min ?? 0,
        max: aspect.max ?? '∞',
      }))
    }
    return findings
  })
}

const rounded = (value: number): number => Math.round(value * 100) / 100

/** Reasons of a return name questions, posts, images and documents alike: no two may share an id. */
function documentFindings(notice: Notice): NoticeFinding[] {
  const taken = new Set<string>([...imageKinds, ...notice.posts.map(p => p.id),
    ...notice.sections.flatMap(s => s.questions).map(q => q.id)])
  return notice.documents.flatMap((rule, i) => {
    const at = pointer('documents', i)
    const findings = emptyRanges(rule, at)
    if (taken.has(rule.id)) findings.push(found('id.taken', `${at}/id`, { id: rule.id }))
    taken.add(rule.id)
    if ((rule.bytes.max ?? 0) > takenAtMost.bytes) {
      findings.push(found('bounds.door-bytes', `${at}/bytes/max`, { value: rule.bytes.max ?? 0, bound: takenAtMost.bytes }))
    }
    if ((rule.pages.max ?? 0) > pagesAtMost) {
      findings.push(found('bounds.door-pages', `${at}/pages/max`, { value: rule.pages.max ?? 0, bound: pagesAtMost }))
    }
    return findings
  })
}

const isRange = (value: unknown): value is Range =>
  typeof value === 'object' && value !== null && !Array.isArray(value) && ('min' in value || 'max' in value)
const isEmpty = ({ min, max }: Range): boolean => (min ?? -Infinity) > (max ?? Infinity)

function emptyRanges(rule: object, at: string): NoticeFinding[] {
  return Object.entries(rule).flatMap(([name, range]: [string, unknown]) =>
    isRange(range) && isEmpty(range) ? [found('bounds.empty', `${at}${pointer(name)}`, { min: range.min ?? 0, max: range.max ?? 0 })] : []
  )
}
