import { faceDetector, faceSettings, type FaceModel } from '../../core/imaging/detector'
import { detailBox } from '../../core/imaging/detail'
import type { FaceDetector } from '../../core/imaging/face'
import { seeFaces } from '../../core/imaging/seeing'
import { makeItFit } from '../../core/imaging/make-it-fit'
import { measureImage } from '../../core/imaging/measure'
import { detailLimit, measuredSide, type Picture } from '../../core/imaging/picture'
import { layingTurn } from '../../core/imaging/signature'
import type { ImageKind } from '../../core/notice/schema'
import type { ImageRule } from '../../core/notice/file-rules'
import type { RgbPixels } from '../../core/imaging/pixels'
import type { Told } from '../composables/asking'
import type { Fitted, Measured, PictureAsk } from '../composables/picture'
import { drawn, encode, NoCanvas, openPicture, Refused, shrunk } from './canvas'

/**
 * Measures and mends pictures beside the page, before anything is sent. Each asking is answered once at once, and for a photograph once
 * more when faces were looked for.
 */
const tell = (told: Told<Measured | Fitted>) => postMessage(told)

/** The picture that was last measured, with its faces: what is made to fit is made of it. */
let latest: { source: Blob, picture: Picture } | null = null
let detector: Promise<FaceDetector> | null = null

self.onmessage = async ({ data: ask }: MessageEvent<PictureAsk>) => {
  try {
    if (ask.act === 'measure') await measure(ask)
    else if (ask.act === 'fit') await fit(ask)
    else {await (detector ??= openDetector()).catch(() => {
        detector = null
      })}
  } catch (error) {
    const refusal = error instanceof Refused
      ? error.reason
      : { code: error instanceof NoCanvas ? 'browser.no-canvas' as const : 'picture.damaged' as const, parameters: {} }
    tell({ id: ask.id, refusal, sure: error instanceof Refused })
  }
}

async function measure({ id, source, kind, rule }: Extract<PictureAsk, { act: 'measure' }>): Promise<void> {
  const started = performance.now()
  const picture = await decode(source)
  latest = { source, picture }
  const wantsFace = wantsFaces(kind, rule)
  tell({ id, ...measured(kind, picture, rule, performance.now() - started), last: !wantsFace })
  if (!wantsFace) return
  await lookForFaces(picture)
  tell({ id, ...measured(kind, picture, rule, performance.now() - started) })
}

const wantsFaces = (kind: ImageKind, rule: ImageRule) => kind === 'photograph' && rule.face !== undefined

function measured(kind: ImageKind, picture: Picture, rule: ImageRule, milliseconds: number): Measured {
  const turn = (kind === 'signature' ? layingTurn(picture.pixels) : picture.seen?.turn) ?? 0
  return { ...measureImage(kind, picture, rule), facts: picture.facts, turn, last: true, milliseconds }
}

/** Looks for faces. Over a weak line the models may not come: then the office looks, and the next picture asks for them again. */
async function lookForFaces(picture: Picture): Promise<Picture['seen']> {
  try {
    picture.seen = await seeFaces(picture.pixels, await (detector ??= openDetector()))
  } catch {
    detector = null
  }
  return picture.seen
}

async function fit({ id, kind, rule, turn }: Extract<PictureAsk, { act: 'fit' }>): Promise<void> {
  if (!latest) throw new Refused({ code: 'picture.none-chosen', parameters: {} })
  const { source, picture } = latest
  const looked = new Map<Picture, number>()
  const look = async (bytes: Uint8Array) => {
    const started = performance.now()
    const made = await decode(new Blob([Uint8Array.from(bytes)], { type: 'image/jpeg' }))
    if (wantsFaces(kind, rule)) await lookForFaces(made)
    looked.set(made, performance.now() - started)
    return made
  }
  const made = await makeItFit(kind, picture, rule, { whole: () => wholeOf(source), encode, look }, turn)
  if (made === 'too heavy') throw new Refused({ code: 'picture.too-heavy', parameters: { most: (rule.bytes.max ?? 0) / 1024 } })
  if (made === 'no better') throw new Refused({ code: 'picture.no-better', parameters: {} })
  tell({
    id,
    made: new Blob([Uint8Array.from(made.bytes)], { type: 'image/jpeg' }),
    edits: made.edits,
    measured: measured(kind, made.picture, rule, looked.get(made.picture) ?? 0),
  })
}

async function decode(source: Blob): Promise<Picture> {
  const { facts, bitmap } = await openPicture(new Uint8Array(await source.arrayBuffer()))
  const pixels = await shrunk(bitmap, measuredSide)
  const detail = Math.max(facts.width, facts.height) <= detailLimit ? drawn(bitmap, detailBox(facts)) : undefined
  bitmap.close()
  return { facts, pixels, detail }
}

async function wholeOf(source: Blob): Promise<RgbPixels> {
  const bitmap = await createImageBitmap(source, { imageOrientation: 'from-image' })
  const pixels = drawn(bitmap, { left: 0, top: 0, width: bitmap.width, height: bitmap.height })
  bitmap.close()
  return pixels
}

/** Models and engine come from our own server, with the first photograph. */
async function openDetector(): Promise<FaceDetector> {
  const { Human } = await import('@vladmandic/human')
  const folder = `${self.location.origin}/faces/`
  const model = new Human(faceSettings(folder, folder))
  await model.load()
  return faceDetector(model as unknown as FaceModel)
}
