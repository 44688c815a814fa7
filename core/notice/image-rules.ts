import type { ImageKind, Notice } from './schema'
import type { ImageRule } from './file-rules'

export const imageKinds = ['photograph', 'signature', 'thumb'] as const satisfies readonly ImageKind[]

/** The kinds of image that a notice asks for, in the order in which they are shown. */
export const imageKindsOf = ({ images }: Pick<Notice, 'images'>): ImageKind[] => imageKinds.filter(kind => images[kind] !== undefined)

/** The rules for a kind of image; throws RangeError when the notice asks for none. */
export function imageRuleOf({ images, code }: Pick<Notice, 'images' | 'code'>, kind: ImageKind): ImageRule {
  const rule = images[kind]
  if (!rule) throw new RangeError(`the notice ${code} asks for no ${kind}`)
  return rule
}
