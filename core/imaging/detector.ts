import type { FaceDetector } from './face'
import type { Point, RgbPixels } from './pixels'

/** What of a detector's package is used here: a tensor of pixels goes in, faces with meshes come out. */
export interface FaceModel {
  tf: { tensor3d: (data: Uint8Array, shape: [number, number, number], type: 'int32') => unknown, dispose: (tensor: never) => void }
  detect: (tensor: never) => Promise<{ face: ModelFace[], error: string | null }>
}
export interface ModelFace {
  boxScore: number
  faceScore: number
  box: readonly number[]
  mesh: readonly (readonly number[])[]
  rotation?: { angle: { yaw: number, pitch: number } } | null
  /** What describes the face, where the model was asked to. */
  embedding?: readonly number[]
}

/** Names of the model files that are used: where faces are, and the mesh of each. */
export const faceModels = ['blazeface', 'facemesh'] as const
/** The WebAssembly the models run on, with and without vector instructions. */
export const faceEngines = ['tfjs-backend-wasm-simd.wasm', 'tfjs-backend-wasm.wasm', 'tfjs-backend-wasm-threaded-simd.wasm'] as const

/** The model that describes a face, for telling whether two are one person's. */
export const describingModel = 'faceres'

/** Settings under which browser and server see the same: one picture at a time, no smoothing over time, nothing but faces. */
export function faceSettings(modelBasePath: string, wasmPath: string, describing = false) {
  const off = { enabled: false }
  return {
    modelBasePath,
    wasmPath,
    backend: 'wasm' as const,
    debug: false,
    async: true,
    warmup: 'none' as const,
    cacheSensitivity: 0,
    skipAllowed: false,
    filter: off,
    gesture: off,
    body: off,
    hand: off,
    object: off,
    segmentation: off,
    face: {
      enabled: true,
      detector: { modelPath: 'blazeface.json', maxDetected: 5, minConfidence: 0.1, rotation: false, return: false },
      mesh: { enabled: true, modelPath: 'facemesh.json' },
      attention: off,
      iris: off,
      emotion: off,
      description: describing
        ? { enabled: true, modelPath: `${describingModel}.json`, minConfidence: 0.1, skipFrames: 0, skipTime: 0 }
        : off,
      antispoof: off,
      liveness: off,
    },
  }
}

const degrees = (radians: number) => radians * 180 / Math.PI
/** The mesh leans back by this much in a face that looks straight into the camera (measured on drawn portraits and photographs). */
const restingPitch = 6

/** Describes the largest face of an upright picture by 1024 numbers; null when it finds none. */
export type FaceDescriber = (pixels: RgbPixels) => Promise<readonly number[] | null>

/** A describer over a model that was loaded to describe. */
export function faceDescriber(model: FaceModel): FaceDescriber {
  return inTurn(async (pixels) => {
    const [largest] = (await facesOf(model, pixels)).sort((a, b) => (b.box[2] ?? 0) - (a.box[2] ?? 0))
    return largest?.embedding ?? null
  })
}

/** A detector over a loaded model. One picture at a time goes through it, in the order of asking. */
export function faceDetector(model: FaceModel): FaceDetector {
  return inTurn(async pixels =>
    (await facesOf(model, pixels)).map(({ boxScore, faceScore, box, mesh, rotation }) => ({
      // Where the box finds something, the mesh says whether it is a face that looks this way up.
      score: boxScore * faceScore,
      box: { left: box[0] ?? 0, top: box[1] ?? 0, width: box[2] ?? 0, height: box[3] ?? 0 },
      mesh: mesh.map((point): Point => ({ x: point[0] ?? 0, y: point[1] ?? 0 })),
      yaw: degrees(rotation?.angle.yaw ?? 0),
      pitch: degrees(rotation?.angle.pitch ?? 0) - restingPitch,
    }))
  )
}

/** One picture after the other, in the order of asking: a model holds one at a time. */
function inTurn<T>(act: (pixels: RgbPixels) => Promise<T>): (pixels: RgbPixels) => Promise<T> {
  let turn: Promise<unknown> = Promise.resolve()
  return (pixels) => {
    const mine = turn.then(() => act(pixels))
    turn = mine.catch(() => undefined)
    return mine
  }
}

async function facesOf(model: FaceModel, pixels: RgbPixels): Promise<ModelFace[]> {
  const tensor = model.tf.tensor3d(pixels.data, [pixels.height, pixels.width, 3], 'int32') as never
  try {
    const { face, error } = await model.detect(tensor)
    if (error) throw new Error(`the face detector failed: ${error}`)
    return face
  } finally {
    model.tf.dispose(tensor)
  }
}
