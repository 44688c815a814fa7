import type { Bound } from '../finding/finding'

/**
 * Bounds of ISO/IEC 39794-5 (face image data), annex D.1: portraits for machine readable travel documents. All values and clauses are from
 * memory and could not be checked against the text here. Chin to crown and the places of the eyes are there shares of the image as here;
 * the crown is an estimate in ours, so a margin is left to people.
 */
export const portraitPresetName = 'ISO/IEC 39794-5 portrait'

interface Published {
  bound: Bound
  clause: string
}
type Bounds = Partial<Record<string, Bound>>

export const portraitPreset: Record<'headHeight' | 'eyeLine' | 'offCentre' | 'eyeDistance' | 'roll' | 'yaw' | 'pitch', Published> = {
  headHeight: { bound: { min: 60, max: 90 }, clause: 'D.1.4.4, head length to image height (from memory)' },
  eyeLine: { bound: { min: 30, max: 50 }, clause: 'D.1.4.4, vertical position of the face centre (from memory)' },
  // The face centre lies between 45 % and 55 % of the width.
  offCentre: { bound: { max: 5 }, clause: 'D.1.4.4, horizontal position of the face centre (from memory)' },
  eyeDistance: { bound: { min: 90 }, clause: 'D.1.4.4, inter-eye distance (from memory)' },
  roll: { bound: { min: -8, max: 8 }, clause: 'D.1.4.2, roll (from memory)' },
  yaw: { bound: { min: -5, max: 5 }, clause: 'D.1.4.2, yaw (from memory)' },
  pitch: { bound: { min: -5, max: 5 }, clause: 'D.1.4.2, pitch (from memory)' },
}

/** The rule with the preset's bounds wherever it states none of its own. */
export function withPortraitPreset<R extends { face?: Bounds, preset?: string }>(rule: R): R {
  if (rule.preset !== portraitPresetName) return rule
  const published = Object.fromEntries(Object.entries(portraitPreset).map(([name, { bound }]) => [name, bound]))
  return { ...rule, face: { ...published, ...rule.face } }
}
