import { mkdtempSync } from 'node:fs'
import Module, { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { build } from 'esbuild'
import type { Box, RgbPixels } from '../../core/imaging/pixels'

interface FaceApi {
  tf: {
    setBackend: (name: string) => Promise<boolean>,
    ready: () => Promise<void>,
    tensor3d: (data: Uint8Array, shape: number[], type: string) => unknown,
  }
  nets: { ssdMobilenetv1: { loadFromDisk: (folder: string) => Promise<void> } }
  SsdMobilenetv1Options: new(options: object) => object
  detectAllFaces: (
    tensor: unknown,
    options: object,
  ) => PromiseLike<{ score: number, box: { x: number, y: number, width: number, height: number } }[]>
}

/** A face detector of another package with another network, to compare ours with. It asks for a package of which it needs a part only. */
export async function openSecondDetector(root: string): Promise<(pixels: RgbPixels) => Promise<Box[]>> {
  const loader = Module as unknown as { _resolveFilename: (name: string, ...rest: unknown[]) => string }
  const before = loader._resolveFilename
  loader._resolveFilename = (name, ...rest) => before.call(Module, name === '@tensorflow/tfjs' ? '@tensorflow/tfjs-core' : name, ...rest)
  const load = createRequire(join(root, 'package.json'))
  try {
    // The methods on tensors that its package would bring along; they lie in a form that only a bundler reads.
    const outfile = join(mkdtempSync(join(tmpdir(), 'lucid-tensors-')), 'methods.cjs')
    await build({
      entryPoints: [join(root, 'node_modules/@tensorflow/tfjs-core/dist/public/chained_ops/register_all_chained_ops.js')],
      bundle: true,
      platform: 'node',
      format: 'cjs',
      outfile,
      logLevel: 'error',
    })
    load(outfile)
    load('@tensorflow/tfjs-backend-wasm').setWasmPaths(`${join(root, 'node_modules/@tensorflow/tfjs-backend-wasm/dist')}/`)
    const api = load(join(root, 'node_modules/@vladmandic/face-api/dist/face-api.node-wasm.js')) as FaceApi
    await api.tf.setBackend('wasm')
    await api.tf.ready()
    await api.nets.ssdMobilenetv1.loadFromDisk(join(root, 'node_modules/@vladmandic/face-api/model'))
    return async ({ width, height, data }) => {
      const found = await api.detectAllFaces(
        api.tf.tensor3d(data, [height, width, 3], 'int32'),
        new api.SsdMobilenetv1Options({ minConfidence: 0.5, maxResults: 10 }),
      )
      return found.map(({ box }) => ({ left: box.x, top: box.y, width: box.width, height: box.height }))
    }
  } finally {
    loader._resolveFilename = before
  }
}
