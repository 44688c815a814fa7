/** The bundled code of a worker as text; made at build time by the plugin of `nuxt.config.ts`. */
declare module 'virtual:allocation-worker' {
  const code: string
  export default code
}

declare module 'virtual:picture-worker' {
  const code: string
  export default code
}

declare module 'jaro-winkler' {
  export default function distance(first: string, second: string): number
}
declare module 'virtual:offline-worker' {
  const code: string
  export default code
}
