import { setResponseHeader, setResponseStatus, type H3Event } from 'h3'
import { createSSRApp, h, type VNode } from 'vue'
import { renderToString } from 'vue/server-renderer'
import type { Language, ScreenKey } from '../../core/words/language'
import type { MessageParameters } from '../../core/words/message'
import { screenText } from '../../core/words/screen-text'

/** Says a sentence of the screens in the language of the reader. */
export type Say = (key: ScreenKey, parameters?: MessageParameters) => string
export const sayIn = (language: Language): Say => (key, parameters) => screenText(language, key, parameters)

/**
 * A page for everybody: drawn on the server, readable without scripts and on a slow line. It asks for one small style sheet, which the
 * theme of the house gives its colours, and a script of a few lines that lets the time left run.
 */
export interface PublicPage {
  title: string
  body: VNode[]
}

// Nothing is loaded but what the office itself serves.
const policy =
  "default-src 'none'; style-src 'self'; script-src 'self'; img-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"

/** Draws a page and sends it. */
export async function sendPage(event: H3Event, language: Language, { title, body }: PublicPage, status = 200): Promise<string> {
  setResponseStatus(event, status)
  setResponseHeader(event, 'content-type', 'text/html; charset=utf-8')
  setResponseHeader(event, 'content-security-policy', policy)
  setResponseHeader(event, 'cache-control', 'no-cache')
  const inner = await renderToString(createSSRApp({ render: () => h('div', { class: 'public' }, body) }))
  const head = await renderToString(createSSRApp({ render: () => [h('title', `${title} · Lucid Roster`)] }))
  return `<!doctype html><html lang="${language.code}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><meta name="color-scheme" content="light dark">`
    + `${head}<link rel="icon" href="/icon.svg" type="image/svg+xml"><link rel="stylesheet" href="/looks/theme.css"><link rel="stylesheet" href="/looks/public.css"><script src="/looks/closing.js" defer></script></head><body>${inner}</body></html>`
}

export const section = (title: string, children: VNode[]): VNode => h('section', [h('h2', title), ...children])
export const table = (rows: readonly (readonly [string, string])[]): VNode =>
  h('table', h('tbody', rows.map(([name, value]) => h('tr', [h('th', { scope: 'row' }, name), h('td', value)]))))
