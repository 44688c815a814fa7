import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { fileURLToPath, pathToFileURL } from 'node:url'
import { faceDescriber, faceDetector, faceSettings, type FaceDescriber, type FaceModel } from '../core/imaging/detector'
import type { FaceDetector } from '../core/imaging/face'

/**
 * The face detector for Node. Models and engine lie in the packages under `root/node_modules`; nothing is fetched from elsewhere.
 * Takes a fifth of a second and about 100 MB; one picture of 512 pixels takes about a tenth of a second.
 */
export async function openFaceDetector(root = process.cwd()): Promise<FaceDetector> {
  return faceDetector(await openModel(root))
}

/** What describes faces for Node, for notices that have them compared: another 7 MB of model, and about as long a look again. */
export async function openFaceDescriber(root = process.cwd()): Promise<FaceDescriber> {
  return faceDescriber(await openModel(root, true))
}

async function openModel(root: string, describing = false): Promise<FaceModel> {
  const packages = join(root, 'node_modules')
  // The package names no door for its build without native code, so it is taken by its path.
  const load = createRequire(join(root, 'package.json'))
  const { Human } = load(join(packages, '@vladmandic/human/dist/human.node-wasm.js')) as {
    Human: new(settings: object) => FaceModel & { load: () => Promise<void> },
  }
  const folder = (path: string) => `${pathToFileURL(join(packages, path)).href}/`
  const model =
    new Human(faceSettings(folder('@vladmandic/human/models'), `${join(packages, '@tensorflow/tfjs-backend-wasm/dist')}/`, describing))
  await withFilesFetched(() => model.load())
  return model
}

/** Lets `fetch` read files while models are loaded: Node's own does not. */
async function withFilesFetched(act: () => Promise<void>): Promise<void> {
  const before = globalThis.fetch
  globalThis.fetch = async (input, init) => {
    const address = String(input)
    if (!address.startsWith('file:')) return before(input, init)
    return new Response(new Uint8Array(await readFile(fileURLToPath(address))), {
      headers: { 'content-type': address.endsWith('.json') ? 'application/json' : 'application/octet-stream' },
    })
  }
  try {
    await act()
  } finally {
    globalThis.fetch = before
  }
}
