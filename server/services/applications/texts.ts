import { createHash } from 'node:crypto'
import { sql } from 'drizzle-orm'
import { languagesOf, noticeIn, writtenIn } from '../../../core/notice/languages'
import { textAnswer } from '../../../core/application/answers'
import type { Notice } from '../../../core/notice/schema'
import { declarationId, isSigned, textsToAccept, type TextToAccept } from '../../../core/notice/terms'
import type { TextRead } from '../../../shared/acts'
import type { TextsOfApplication } from '../../../shared/applications'
import { refusal } from '../../../shared/refusal'
import { acceptedText, textWording } from '../../database/schema'
import { asked, keptAbout } from '../../database/kept-statements'
import { inserting, type Write } from '../../database/together'
import { carryOut, type Acting, type Carried } from '../acts/carry-out'
import type { Given } from '../acts/given'
import type { Caller } from '../context'
import { namesOf } from '../people/names'
import { applicationStatement, applicationUnder, type ApplicationRow } from './store'

/**
 * The texts of a notice that candidates accept in so many words, its declaration among them. What is accepted is a wording, known by its
 * hash: a text that an amendment changes is read and accepted anew, and what somebody accepted once can be read for ever.
 */

interface Wording extends TextToAccept {
  language: string
  sha256: string
}

// A notice never changes, and its texts are long.
const known = new WeakMap<Notice, Wording[]>()

/** Every text in each language of the notice, in the one that it is written in first. */
function wordingsOf(notice: Notice): Wording[] {
  const kept = known.get(notice) ?? languagesOf(notice).flatMap(language =>
    textsToAccept(noticeIn(notice, language)).map(one => ({
      ...one,
      language,
      sha256: createHash('sha256').update(one.text).digest('hex'),
    }))
  )
  known.set(notice, kept)
  return kept
}

const isAccepted = (notice: Notice, { accepted }: Pick<ApplicationRow, 'accepted'>, id: string) =>
  wordingsOf(notice).some(one => one.id === id && one.sha256 === accepted[id])
const written = (notice: Notice) => wordingsOf(notice).filter(one => one.language === writtenIn(notice))

/** Texts, besides the declaration, of which this application has not accepted the present wording. */
const openTexts = (notice: Notice, row: Pick<ApplicationRow, 'accepted'>) =>
  written(notice).filter(({ id }) => id !== declarationId && !isAccepted(notice, row, id))

/** Texts that have to be accepted before the form opens. What is keyed from paper was accepted there. */
const textsFirst = (notice: Notice, row: Pick<ApplicationRow, 'accepted' | 'form' | 'keying'>) =>
  row.form === 'drafting' && row.keying === null ? openTexts(notice, row).filter(({ asked }) => asked === 'at the beginning') : []
export const hasTextsFirst = (notice: Notice, row: Pick<ApplicationRow, 'accepted' | 'form' | 'keying'>): boolean =>
  textsFirst(notice, row).length > 0

/** Refuses what waits until the texts were accepted that the notice asks for first. */
export function refuseBeforeTexts(row: ApplicationRow, notice: Notice): void {
  const first = textsFirst(notice, row)
  if (first.length > 0) throw refusal('sheet.texts-first', { titles: titlesOf(first) })
}

const titlesOf = (texts: readonly { title: string }[]) => texts.map(({ title }) => title).join(', ')

/** Accepts texts by themselves, before the form or while it is open. */
export function acceptTexts(caller: Caller, id: string, read: readonly TextRead[], given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'accept-texts', id, given, async (acting) => {
    const wordings = wordingsRead(acting, read)
    return {
      result: null,
      ...accepting(acting, 'accept-texts', wordings),
      before: {},
      after: { texts: wordings.map(({ id: text, title }) => title || text) },
    }
  })
}

/** What handing in accepts: the declaration, and every text of the notice that is not accepted as it is now. */
export function acceptingAll(acting: Acting, act: 'submit' | 'hand-in-correction', read: readonly TextRead[]) {
  const { notice, row } = acting
  const wordings = wordingsRead(acting, read)
  const lacking = openTexts(notice, row).filter(({ id }) => !wordings.some(one => one.id === id))
  if (lacking.length > 0) throw refusal('sheet.texts-open', { titles: titlesOf(lacking) })
  // Whoever declares without a page declares what the notice says in its own language.
  const declaration = wordings.some(({ id }) => id === declarationId) ? [] : written(notice).filter(({ id }) => id === declarationId)
  refuseUnsigned(acting, declaration, [])
  return accepting(acting, act, [...wordings, ...declaration])
}

/** Every text as the notice has it now, for a sender who keeps what was signed on paper. */
export const textsOnPaper = (notice: Notice): TextRead[] => written(notice).map(({ id, sha256 }) => ({ id, sha256 }))

/** Who signs by hand: an officer, or the sender of a roll, keeps what was signed on paper. */
const signsByHand = ({ context }: Pick<Acting, 'context'>) => context.principal.kind === 'candidate'

function refuseUnsigned(acting: Pick<Acting, 'context' | 'row'>, wordings: readonly Wording[], read: readonly TextRead[]): void {
  if (!signsByHand(acting)) return
  const name = textAnswer(acting.row.answers, 'certificateName')
  for (const { id, title, signed } of wordings) {
    const typed = read.find(one => one.id === id)?.signature ?? ''
    if (!isSigned(signed, name, typed)) throw refusal('sheet.signature', { title: title || id, signed, name, typed: typed || 'none' })
  }
}

function wordingsRead(acting: Pick<Acting, 'context' | 'row' | 'notice'>, read: readonly TextRead[]): Wording[] {
  const { notice } = acting
  const wordings = read.map(({ id, sha256 }) => {
    const found = wordingsOf(notice).find(one => one.id === id && one.sha256 === sha256)
    if (!found) {
      const now = written(notice).find(one => one.id === id)
      throw refusal('sheet.text-changed', { title: now?.title || id })
    }
    return found
  })
  refuseUnsigned(acting, wordings, read)
  return wordings
}

function accepting(
  { context, row, version }: Acting,
  act: typeof acceptedText.$inferInsert['act'],
  read: readonly Wording[],
): { columns: Pick<ApplicationRow, 'accepted'>, writes: Write[] } {
  // In one order for everybody: who waits for a new wording of somebody else's never holds one that they wait for.
  const wordings = [...read].sort((a, b) => a.sha256 < b.sha256 ? -1 : 1)
  return {
    columns: { accepted: { ...row.accepted, ...Object.fromEntries(wordings.map(({ id, sha256 }) => [id, sha256])) } },
    writes: [
      inserting(textWording, wordings.map(({ sha256, text }) => ({ sha256, text })), sql`on conflict do nothing`),
      inserting(
        acceptedText,
        wordings.map(({ id, title, sha256, language, signed }) => ({
          id: context.newId(),
          applicationId: row.id,
          text: id,
          title,
          sha256,
          noticeVersion: version,
          language,
          signed: signsByHand({ context }) ? signed : 'ticked' as const,
          act,
          by: context.principal.id,
          at: context.now(),
        })),
      ),
    ],
  }
}

type AcceptedRow = TextsOfApplication['accepted'][number]

/** An application with all that was accepted for it: whoever hands a form in asks for it right before. */
const withAccepted = keptAbout(() =>
  applicationStatement(sql`, array(
    select json_build_object('id', t.text, 'title', t.title, 'text', w.text, 'sha256', t.sha256, 'noticeVersion', t.notice_version,
      'language', t.language, 'signed', t.signed, 'by', t.by, 'at', t.at)
    from accepted_text t join text_wording w on w.sha256 = t.sha256 where t.application_id = ${asked.id} order by t.at, t.text) as accepted`)
)

/** The texts of an application's notice in a language that the reader chose, and all that was ever accepted for it, the first first. */
export async function readTexts(caller: Caller, id: string, language: string | null): Promise<TextsOfApplication> {
  const { db, principal } = await caller.authorise('applications.read', { application: id })
  const { row, notice, more } = await applicationUnder<{ accepted: AcceptedRow[] }>(db, withAccepted({ id }))
  const all = wordingsOf(notice)
  const chosen = all.some(one => one.language === language) ? language : writtenIn(notice)
  // Who of the office did what stays inside.
  const name = principal.kind === 'staff' ? await namesOf(db, more.accepted.map(one => one.by)) : () => ''
  const first = new Set(textsFirst(notice, row).map(one => one.id))
  return {
    texts: all.filter(one => one.language === chosen).map(({ id: text, title, text: words, sha256, signed }) => ({
      id: text,
      title,
      text: words,
      sha256,
      signed,
      isFirst: first.has(text),
      isAccepted: text !== declarationId && isAccepted(notice, row, text),
      isChanged: text !== declarationId && row.accepted[text] !== undefined && !isAccepted(notice, row, text),
    })),
    accepted: more.accepted.map(one => ({ ...one, by: name(one.by), at: new Date(one.at).toISOString() })),
  }
}
