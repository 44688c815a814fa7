import { asc, eq } from 'drizzle-orm'
import { lookedFor, printHints, type PrintedWord } from '../../../core/documents/print'
import { identityQuestion } from '../../../core/identity/identity-question'
import type { PrintReader } from '../../../pictures/print'
import { PrintWaits } from '../../../pictures/print'
import { refusal } from '../../../shared/refusal'
import type { PrintView } from '../../../shared/scrutiny'
import { application, image, printedPage } from '../../database/schema'
import type { Caller, Context } from '../context'
import { readFile } from '../files/bytes'
import { currentNotice } from '../notice/notices'

/** Pages of one paper that are read: what tells who somebody is stands on the first. */
const pagesAtMost = 3

/**
 * Holds what a machine reads on a paper against the answers that papers are compared with by eye: always a hint. A page is read once, by
 * whichever process is asked first, and kept.
 *
 * @throws ProblemError `print.waits` where others wait before it.
 */
export async function readPrintOf(caller: Caller, read: PrintReader, imageId: string): Promise<PrintView> {
  const context = await caller.authorise('scrutiny.read')
  await caller.authorise('files.read')
  const [found] = await context.db.select({ image, application }).from(image).innerJoin(
    application,
    eq(application.id, image.applicationId),
  ).where(eq(image.id, imageId))
  if (!found) throw refusal('file.unknown')
  const { notice } = await currentNotice(context.db, found.application.cycle)
  const words = await wordsOf(context, read, found.image)
  const questions = notice.sections.flatMap(s => s.questions).filter(q =>
    ['certificateName', 'identityName', 'bornOn', identityQuestion(notice)].includes(q.id)
  )
  return {
    image: imageId,
    pages: Math.min(pagesAtMost, found.image.pages.length),
    hints: printHints(words, lookedFor(questions, found.application.answers)),
  }
}

async function wordsOf(context: Context, read: PrintReader, { id, pages }: typeof image.$inferSelect): Promise<PrintedWord[]> {
  const kept = await context.db.select().from(printedPage).where(eq(printedPage.imageId, id)).orderBy(asc(printedPage.page))
  const words = kept.flatMap(row => row.words)
  for (const [place, { sha256, width, height }] of pages.slice(0, pagesAtMost).entries()) {
    const page = place + 1
    if (kept.some(row => row.page === page)) continue
    const found = await read(await readFile(context.db, sha256), { page, width, height }).catch((error: unknown) => {
      if (error instanceof PrintWaits) throw refusal('print.waits')
      throw error
    })
    await context.db.insert(printedPage).values({ imageId: id, page, words: found, at: context.now() }).onConflictDoNothing()
    words.push(...found)
  }
  return words
}
