import { h } from 'vue'
import { renderToString } from 'vue/server-renderer'

/** A letter's text as simple HTML: its paragraphs and lines, nothing that is loaded from anywhere. */
export async function htmlOf(text: string): Promise<string> {
  const paragraphs = text.trim().split(/\n{2,}/).map(part =>
    h('p', part.split('\n').flatMap((line, place) => place === 0 ? [line] : [h('br'), line]))
  )
  return `<!doctype html>${await renderToString(h('html', [h('head', [h('meta', { charset: 'utf-8' })]), h('body', paragraphs)]))}`
}
