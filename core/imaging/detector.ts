import type { DetectedFace, FaceDetector, Point } from './face'
import type { RgbPixels } from './pixels'

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
}

/** Names of the model files that are used: where faces are, and the mesh of each. */
export const faceModels = ['blazeface', 'facemesh'] as const
/** The WebAssembly the models run on, with and without vector instructions. */
export const faceEngines = ['tfjs-backend-wasm-simd.wasm', 'tfjs-backend-wasm.wasm', 'tfjs-backend-wasm-threaded-simd.wasm'] as const

/** Settings under which browser and server see the same: one picture at a time, no smoothing over time, nothing but faces. */
export function faceSettings(modelBasePath: string, wasmPath: string) {
  const off = { enabled: false }
  return {
    modelBasePath, wasmPath, backend: 'wasm' as const, debug: false, async: true, warmup: 'none' as const, cacheSensitivity: 0, skipAllowed: false,
    filter: off, gesture: off, body: off, hand: off, object: off, segmentation: off,
    face: {
      enabled: true, detector: { modelPath: 'blazeface.json', maxDetected: 5, minConfidence: 0.1, rotation: false, return: false }, mesh: { enabled: true, modelPath: 'facemesh.json' },
      attention: off, iris: off, emotion: off, description: off, antispoof: off, liveness: off,
    },
  }
}

const degrees = (radians: number) => radians * 180 / Math.PI
/** The mesh leans back by this much in a face that looks straight into the camera (measured on drawn portraits and photographs). */
const restingPitch = 6

/** A detector over a loaded model. One picture at a time goes through it, in the order of asking. */
export function faceDetector(model: FaceModel): FaceDetector {
  let turn: Promise<unknown> = Promise.resolve()
  return (pixels) => {
    const mine = turn.then(() => detectWith(model, pixels))
    turn = mine.catch(() => undefined)
    return mine
  }
}

async function detectWith(model: FaceModel, pixels: RgbPixels): Promise<DetectedFace[]> {
  const tensor = model.tf.tensor3d(pixels.data, [pixels.height, pixels.width, 3], 'int32') as never
  try {
    const { face, error } = await model.detect(tensor)
    if (error) throw new Error(`the face detector failed: ${error}`)
    return face.map(({ boxScore, faceScore, box, mesh, rotation }) => ({
      // Where the box finds something, the mesh says whether it is a face that looks this way up.
      score: boxScore * faceScore,
      box: { left: box[0] ?? 0, top: box[1] ?? 0, width: box[2] ?? 0, height: box[3] ?? 0 },
      mesh: mesh.map((point): Point => ({ x: point[0] ?? 0, y: point[1] ?? 0 })),
      yaw: degrees(rotation?.angle.yaw ?? 0), pitch: degrees(rotation?.angle.pitch ?? 0) - restingPitch,
    }))
  } finally {
    model.tf.dispose(tensor)
  }
}
