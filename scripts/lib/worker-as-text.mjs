import { build } from 'esbuild'

/** A plugin for the build and for the tests: bundles a server's worker into one text, so that the built server needs no file beside it to start the thread. */
export function workerAsText(name, entry) {
  return {
    name: `worker-as-text:${name}`,
    resolveId: id => id === name ? `\0${name}` : null,
    async load(id) {
      if (id !== `\0${name}`) return null
      const { outputFiles } = await build({ entryPoints: [entry], bundle: true, platform: 'node', format: 'cjs', target: 'node20', write: false, external: ['sharp'] })
      return `export default ${JSON.stringify(outputFiles[0]?.text ?? '')}`
    },
  }
}
