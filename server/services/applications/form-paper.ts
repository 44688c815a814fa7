import { liveSheet } from '../../../core/application/answers'
import { endorsementsWanted } from '../../../core/application/endorsements'
import { withDecisions } from '../../../core/application/requests'
import { slotsOf } from '../../../core/application/slots'
import { spellInstant } from '../../../core/calendar/zone'
import { spellAmount } from '../../../core/fees/assess'
import type { Notice } from '../../../core/notice/schema'
import { declarationId } from '../../../core/notice/terms'
import { formatMessage, type MessageParameters } from '../../../core/words/message'
import type { Dossier, TextsOfApplication } from '../../../shared/applications'
import type { Executor } from '../../database/client'
import { documentOf, mm } from '../../paper/document'
import { Flow } from '../../paper/flow'
import type { Caller, Context } from '../context'
import { readFile } from '../files/bytes'
import { currentImages } from '../images/current'
import { currentNotice } from '../notice/notices'
import { readDossier } from './dossier'
import { readTexts } from './texts'

/**
 * An application on paper as it stands, A4: answers, pictures, papers, fee with what is open, and what was declared. As long as nothing
 * changes the same bytes.
 */
export async function formPdf(caller: Caller, id: string): Promise<{ name: string, pdf: Buffer }> {
  const dossier = await readDossier(caller, id)
  const context = await caller.authorise('applications.read', { application: id })
  const { notice } = await currentNotice(context.db, dossier.cycle)
  const { formTexts } = context.language.papers
  const say = (text: keyof typeof formTexts, parameters: MessageParameters = {}) =>
    formatMessage(context.language.locale, formTexts[text], parameters)
  const at = new Date(Number(dossier.changedAt))
  const texts = await readTexts(caller, id, null)
  const pictures = await picturesOf(context.db, dossier)
  const pdf = await documentOf({ title: say('title', { number: dossier.number }), author: notice.body.name, at, hasFoot: true }, (doc) => {
    const flow = new Flow(doc)
    head(flow, say, context, notice, dossier, at)
    if (pictures.length > 0) flow.pictures(pictures, mm(42))
    answers(flow, context, notice, dossier)
    papers(flow, say, notice, dossier)
    others(flow, say, notice, dossier)
    fee(flow, say, context, notice, dossier)
    accepted(flow, say, notice, dossier, texts)
    flow.foot(({ page, pages }) => say('foot', { number: dossier.number, page, pages, at: spellInstant(at, notice.body.zone) }))
  })
  return { name: `form-${dossier.number}.pdf`, pdf }
}

/** What was declared, in the words that were, and what else was accepted; of a draft what will be declared. */
function accepted(flow: Flow, say: Say, notice: Notice, { submittedAt }: Dossier, { texts, accepted: all }: TextsOfApplication): void {
  const newest = new Map(all.map(one => [one.id, one]))
  const declaration = submittedAt ? newest.get(declarationId) : undefined
  flow.heading(say('declaration'))
  flow.paragraph(declaration?.text ?? texts.find(({ id }) => id === declarationId)?.text ?? '')
  flow.paragraph(
    submittedAt
      ? say('declared', { at: spellInstant(submittedAt, notice.body.zone), signed: declaration?.signed ?? 'ticked' })
      : say('notDeclared'),
    true,
  )
  for (const { id, title, at, noticeVersion, signed } of newest.values()) {
    if (id === declarationId) continue
    flow.paragraph(say('accepted', { title, at: spellInstant(at, notice.body.zone), version: noticeVersion, signed }), true)
  }
}

type Say = (text: keyof Context['language']['papers']['formTexts'], parameters?: MessageParameters) => string

function head(flow: Flow, say: Say, { language }: Pick<Context, 'language'>, notice: Notice, dossier: Dossier, at: Date): void {
  flow.paragraph(notice.body.name, true)
  flow.title(notice.title)
  flow.paragraph(say('who', { name: dossier.name || '–', number: dossier.number }))
  const { zone } = notice.body
  flow.paragraph(
    `${
      dossier.submittedAt
        ? say('handedIn', { at: spellInstant(dossier.submittedAt, zone) })
        : say('notHandedIn', { closes: spellInstant(notice.keyDates.closes, zone) })
    } ${say('stands', { at: spellInstant(at, zone), headline: language.states.headlineWords[dossier.headline] })}`,
    true,
  )
}

function answers(flow: Flow, { language }: Pick<Context, 'language'>, notice: Notice, { answers: given }: Dossier): void {
  const asked = new Set(liveSheet(notice, given).asked.map(question => question.id))
  for (const section of notice.sections) {
    const questions = section.questions.filter(question => asked.has(question.id))
    if (questions.length === 0) continue
    flow.heading(section.title)
    for (const question of questions) flow.row(question.label, language.answers.spellAnswer(notice, question.id, given[question.id]))
  }
}

function papers(flow: Flow, say: Say, notice: Notice, { answers: given, files, seesFiles }: Dossier): void {
  if (!seesFiles) return
  flow.heading(say('papers'))
  for (const slot of slotsOf(notice, given)) {
    const file = files[slot.id]
    flow.row(
      slot.title,
      file
        ? say('paper', {
          format: file.format.toUpperCase(),
          kb: Math.max(1, Math.round(file.bytes / 1024)),
          at: spellInstant(file.at, notice.body.zone),
        })
        : say('noPaper'),
    )
  }
}

/** What others have to say, in numbers: what they said is not for this paper. */
function others(flow: Flow, say: Say, notice: Notice, { answers: given, decided, endorsed }: Dossier): void {
  const wanted = endorsementsWanted(notice, withDecisions(notice, given, decided), endorsed)
  if (wanted.length > 0) flow.heading(say('others'))
  for (const { rule, lacking, unasked } of wanted) {
    flow.row(rule.title, say('given', { given: rule.count - lacking, count: rule.count, asked: lacking - unasked }), lacking > 0)
  }
}

function fee(
  flow: Flow,
  say: Say,
  { language }: Pick<Context, 'language'>,
  notice: Notice,
  { assessment, received, submittedAt }: Dossier,
): void {
  if (!assessment) return
  const { currency, items, total } = assessment
  flow.heading(say('fee'))
  for (const item of items) {
    const { title, because } = language.fees.feeWords(item)
    flow.row(`${title}, ${because}`, spellAmount(item.amount, currency))
  }
  flow.row(say('total'), spellAmount(total, currency), true)
  if (!submittedAt) return
  flow.row(say('received'), spellAmount(received, currency))
  const open = Math.max(0, total - received)
  flow.row(
    say('open'),
    open > 0
      ? `${spellAmount(open, currency)}, ${say('lastPayment', { at: spellInstant(notice.keyDates.lastPayment, notice.body.zone) })}`
      : spellAmount(0, currency),
    open > 0,
  )
}

/** Photograph and signature, where the reader may see them. */
async function picturesOf(db: Executor, { id, seesFiles }: Dossier): Promise<{ bytes: Buffer, width: number }[]> {
  if (!seesFiles) return []
  const images = await currentImages(db, id)
  const shown: { bytes: Buffer, width: number }[] = []
  for (const [slot, width] of [['photograph', mm(34)], ['signature', mm(70)]] as const) {
    const sha256 = images[slot]?.displaySha256
    if (sha256) shown.push({ bytes: await readFile(db, sha256), width })
  }
  return shown
}
