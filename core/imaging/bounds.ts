import type { Bound } from '../finding/finding'
import { faceRuleSchema, imageKinds, type ImageRule, type Notice } from '../notice/schema'

/** The bound that a notice sets for a check on an image, by the code of its finding; null where it sets none. */
export function boundOfCheck({ images }: Pick<Notice, 'images'>, code: string): Bound | null {
  const [kindName, name = ''] = code.split('.')
  const kind = imageKinds.find(one => one === kindName)
  const rule = kind && images[kind]
  if (!rule) return null
  if (name === 'faces') return { min: 1, max: 1 }
  if (name in faceRuleSchema.shape) return rule.face?.[name as keyof NonNullable<ImageRule['face']>] ?? null
  const own = rule[(name === 'background' ? 'backgroundDistance' : name) as keyof ImageRule]
  return typeof own === 'object' && !Array.isArray(own) ? own as Bound : null
}
