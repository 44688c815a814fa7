import { build } from 'esbuild'

/** A server's worker and all it needs as one text, so that the built server needs no file beside it to start the thread. */
export async function bundledWorker(entry) {
  const { outputFiles } = await build({
    entryPoints: [entry], bundle: true, platform: 'node', format: 'cjs', target: 'node20', write: false, external: ['sharp'],
    // A text has no place of its own; packages that ask for theirs are given their files by their callers.
    define: { 'import.meta.url': '"file:///worker.js"' },
  })
  return outputFiles[0]?.text ?? ''
}

/** A plugin for the build and for the tests: gives the text of a bundled worker under a name. */
export function workerAsText(name, entry) {
  return {
    name: `worker-as-text:${name}`,
    resolveId: id => id === name ? `\0${name}` : null,
    async load(id) {
      if (id !== `\0${name}`) return null
      // Coded, so that nothing that the build replaces in code is replaced within the text.
      return `export default Buffer.from('${Buffer.from(await bundledWorker(entry)).toString('base64')}', 'base64').toString()`
    },
  }
}
