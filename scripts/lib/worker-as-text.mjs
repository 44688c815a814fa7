import { build } from 'esbuild'

/** A worker of the server, or of the browser, and all it needs as one text, so that the built server needs no file beside it. */
export async function bundledWorker(entry, platform = 'node') {
  const { outputFiles } = await build({
    entryPoints: [entry],
    bundle: true,
    write: false,
    external: ['sharp'],
    ...platform === 'node' ? { platform, format: 'cjs', target: 'node20' } : { platform, format: 'iife', target: 'es2022', minify: true },
    // A text has no place of its own; packages that ask for theirs are given their files by their callers.
    define: { 'import.meta.url': '"file:///worker.js"', ...platform === 'node' ? {} : { 'process.env.NODE_ENV': '"production"' } },
  })
  return outputFiles[0]?.text ?? ''
}

/** A plugin for the build and for the tests: gives the text of a bundled worker under a name. */
export function workerAsText(name, entry, platform = 'node') {
  return {
    name: `worker-as-text:${name}`,
    resolveId: id => id === name ? `\0${name}` : null,
    async load(id) {
      if (id !== `\0${name}`) return null
      // Coded, so that nothing that the build replaces in code is replaced within the text.
      return `export default Buffer.from('${Buffer.from(await bundledWorker(entry, platform)).toString('base64')}', 'base64').toString()`
    },
  }
}
