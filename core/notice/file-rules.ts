import { z } from 'zod'
import { calendarDate, conditionSchema, id, instant, longText } from './questions'
import { inkNames } from '../imaging/ink'
import { portraitPresetName, withPortraitPreset } from './portrait-preset'

const range = z.strictObject({ min: z.number().optional(), max: z.number().optional() })

/**
 * Rules for the face in a photograph; each is measured only where it is set. Places are percent of the frame, the crown is estimated
 * from eyes and chin. Angles are degrees to either side.
 */
export const faceRuleSchema = z.strictObject({
  headHeight: range.optional(),
  /** From the upper edge to the crown. */
  crownRoom: range.optional(),
  /** From the upper edge to the eyes. */
  eyeLine: range.optional(),
  /** Of the middle between the eyes from the middle of the frame. */
  offCentre: range.optional(),
  /** Between the middles of the eyes, in pixels of the picture as it was sent. */
  eyeDistance: range.optional(),
  roll: range.optional(),
  yaw: range.optional(),
  pitch: range.optional(),
  /** Height of the opening between the lids, in percent of the eye's width. */
  eyesOpen: range.optional(),
  /** Lightness round the eyes in percent of that of the cheeks. */
  eyesUncovered: range.optional(),
  /** Percent of the middle of an eye that glows red. */
  redEyes: range.optional(),
  /** Standard deviation of the blur at the face's steepest edges, in percent of its width. */
  blur: range.optional(),
})

export type FaceRule = z.infer<typeof faceRuleSchema>

/** Rules for one kind of image. Bytes: 1 KB = 1024 bytes. Aspect is width / height. Levels run from 0 to 255. */
export const imageRuleSchema = z.strictObject({
  title: z.string(),
  formats: z.array(z.enum(['jpeg', 'png'])).min(1),
  bytes: range,
  width: range,
  height: range,
  aspect: range,
  /** The first day on which it may have been taken, as far as its camera data say when. */
  takenFrom: calendarDate.optional(),
  sharpness: range.optional(),
  /** Level of the brightest tenth of the picture. */
  exposure: range.optional(),
  /** Percent of the middle of the picture that is burnt out to white. */
  burntOut: range.optional(),
  contrast: range.optional(),
  backgroundEvenness: range.optional(),
  /** Colours that the background may have, and how far from the nearest of them it may lie (CIEDE2000). */
  backgrounds: z.array(z.strictObject({
    title: z.string().min(1),
    colour: z.string().regex(/^#[0-9a-f]{6}$/, 'shape.colour').meta({ form: 'colour' }),
  })).max(12).default([]),
  backgroundDistance: range.optional(),
  /** Percent by which the darkest part of the background lies under its lightest. */
  backgroundShadow: range.optional(),
  face: faceRuleSchema.optional(),
  /** Published bounds for the face wherever `face` states none. */
  preset: z.literal(portraitPresetName).optional(),
  /**
   * Of a photograph: compare the face with those of the cycle's other candidates, as a hint for scrutiny. What describes a face is kept
   * only then.
   */
  sameFace: z.boolean().default(false),
  /**
   * How much rougher block borders are than what lies between: compression. Percent of the pixels across that carry detail. Percent of flat
   * bars at the edges.
   */
  blockiness: range.optional(),
  detail: range.optional(),
  bars: range.optional(),
  /** Percent by which the darker side of the middle lies under the lighter one. */
  sideLight: range.optional(),
  inkShare: range.optional(),
  /**
   * Of a signature: percent of the picture that a box around the ink takes; pieces of ink; width of a stroke in pixels of the measured
   * copy.
   */
  boxShare: range.optional(),
  pieces: range.optional(),
  strokeWidth: range.optional(),
  /** Percent of the ink in pieces that reach an edge. */
  cutOff: range.optional(),
  /** Level of the paper; percent by which its darkest part lies under its lightest. */
  paper: range.optional(),
  shade: range.optional(),
  /** Mean difference between the strongest and the weakest colour of a pixel: of a signature small, of a grey photograph nearly 0. */
  saturation: range.optional(),
  /**
   * Of a signature: straight lines across the picture; colours of ink that are taken; percent that is neither paper nor ink; things that
   * lie apart; percent of the ink's box that one loop encloses; width over height of that box. The last three are never more than a doubt,
   * but for a box that is much higher than wide: it lies on its side.
   */
  rulings: range.optional(),
  inks: z.array(z.enum(inkNames)).min(1).optional(),
  strange: range.optional(),
  parts: range.optional(),
  enclosed: range.optional(),
  inkAspect: range.optional(),
  /** Of a thumb impression: percent of the picture with print on it; of the print, where ridges run, and what is solid. */
  printArea: range.optional(),
  ridges: range.optional(),
  smudge: range.optional(),
}).transform(withPortraitPreset)

export type ImageRule = z.infer<typeof imageRuleSchema>

/**
 * A document that is wanted of those for whom `when` holds. Bytes: 1 KB = 1024 bytes. Bounds of legibility are for scans and pictures of
 * papers; each is measured only where it is set.
 */
export const documentRuleSchema = z.strictObject({
  id,
  title: z.string().min(1),
  /** What the paper must show, in words for the candidate. */
  shows: longText().default(''),
  when: conditionSchema.optional(),
  required: z.boolean().default(true),
  /** It may come after the form was handed in, before this moment; nobody is accepted without it. */
  followsUntil: instant.optional(),
  /** It tells who somebody is: shown beside the photograph. */
  identity: z.boolean().default(false),
  formats: z.array(z.enum(['pdf', 'jpeg', 'png'])).min(1),
  bytes: range,
  pages: range.default({ min: 1 }),
  blankPages: range.optional(),
  /** Each side of each page of a PDF, in millimetres. */
  pageSide: range.optional(),
  /** Pixels an inch of paper, of scans in a PDF. */
  resolution: range.optional(),
  /** Height of small letters, in pixels of the scan: a quality index of 5, "good", asks for 10 in grey (AIIM TR26-1993, from memory). */
  letters: range.optional(),
  /** Blur of the edges of ink, in percent of the height of a small letter. */
  blur: range.optional(),
  contrast: range.optional(),
  /** Degrees to either side. */
  skew: range.optional(),
})

export type DocumentRule = z.infer<typeof documentRuleSchema>
