import type { Bound } from '../finding/finding'
import { faceRuleSchema, type DocumentRule, type ImageRule } from './file-rules'
import type { Notice } from './schema'
import { imageKinds } from './image-rules'

/**
 * The bound that a notice sets for a check on an image or a document, by what it is about and the code of its finding; null where it sets
 * none.
 */
export function boundOfCheck({ images, documents }: Pick<Notice, 'images' | 'documents'>, about: string, code: string): Bound | null {
  const [kindName, name = ''] = code.split('.')
  const document = documents.find(({ id }) => id === about)
  if (document) return boundIn(document, name)
  const kind = imageKinds.find(one => one === kindName)
  const rule = kind && images[kind]
  if (!rule) return null
  if (name === 'faces') return { min: 1, max: 1 }
  if (name in faceRuleSchema.shape) return rule.face?.[name as keyof NonNullable<ImageRule['face']>] ?? null
  return boundIn(rule, name === 'background' ? 'backgroundDistance' : name)
}

function boundIn(rule: ImageRule | DocumentRule, name: string): Bound | null {
  const own = (rule as Record<string, unknown>)[name]
  return typeof own === 'object' && !Array.isArray(own) ? own as Bound : null
}
