import type { Answers } from '~~/core/application/answers'
import { readNotice } from '~~/core/notice/check'
import { examplePerson } from '~~/core/notice/checks/reach'
import type { NoticeFinding } from '~~/core/notice/finding'
import type { NoticeAsk } from '~/composables/draft'

/** Checks a notice beside the page, so that typing never waits for it. */
self.onmessage = ({ data: { id, document, register } }: MessageEvent<NoticeAsk>) => {
  const { notice, findings } = readNotice(document, new Map(register.map(city => [city.id, city])))
  const examples: Record<string, Answers> = {}
  for (const post of notice?.posts ?? []) {
    const person = notice && examplePerson(notice, post)
    if (person) examples[post.id] = person
  }
  self.postMessage({ id, findings, examples } satisfies { id: number, findings: NoticeFinding[], examples: Record<string, Answers> })
}
