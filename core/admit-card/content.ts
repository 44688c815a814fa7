import type { Notice, ImageKind, Session } from '../notice/schema'
import { textAnswer, type Answers } from '../application/answers'
import type { Seat } from '../seating/seats'
import { spellBirthday, spellDate } from '../calendar/zone'
import { holdsSeat } from '../application/acts/table'
import { clockAfter, extraMinutes, grantedRequests, minutesAnHour, needsStepFree, saidOf } from '../application/requests'
import { isFeeClear, type Tracks } from '../application/tracks'
import { formatMessage, type MessageParameters } from '../words/message'
import type { CodeContent } from './code'

/** Why a card cannot be issued now. Each names what clears it; words come from the code. */
export type CardBlocker = 'form' | 'fee' | 'scrutiny' | 'placement' | 'hold' | 'request' | ImageKind

/** Everything that stands between an application and its card, of the images those `wanted`; `isHeld` when somebody withholds it by hand, `isAsking` while a request waits for the office; empty when the card may be issued. */
export function cardBlockers(tracks: Tracks, images: Partial<Record<ImageKind, unknown>>, wanted: readonly ImageKind[], { isHeld = false, isAsking = false } = {}): CardBlocker[] {
  const blockers: CardBlocker[] = []
  if (tracks.form !== 'submitted') blockers.push('form')
  if (!isFeeClear(tracks.fee)) blockers.push('fee')
  if (tracks.scrutiny !== 'accepted') blockers.push('scrutiny')
  if (!holdsSeat(tracks)) blockers.push('placement')
  if (isHeld) blockers.push('hold')
  if (isAsking) blockers.push('request')
  for (const kind of wanted) if (images[kind] === undefined) blockers.push(kind)
  return blockers
}

/** The facts of a card, by what they are. */
export type CardLabel = 'born' | 'category' | 'posts' | 'identity' | 'identityName' | 'centre' | 'address' | 'session' | 'report' | 'gate' | 'test' | 'time' | 'scribe' | 'seat'
/** The words that a card is made with, in one language. */
export interface CardWords {
  code: string
  locale: string
  papers: { cardLabels: Record<CardLabel, string>, cardTexts: Record<'original' | 'time' | 'moreTime' | 'ownScribe' | 'proof' | 'seat' | 'stepFree' | 'stepFreeOnly', string> }
}

export interface CardRow { label: string, text: string }

/** What a card says, in the order of reading, ready for any printer. */
export interface CardContent {
  /** The language that it was made in; English for cards of earlier versions. */
  language?: string
  body: string, address: string, examination: string, title: string
  name: string, application: string, roll: string, version: number
  person: CardRow[], sitting: CardRow[], instructions: string[]
}

export interface CardSubject { number: string, answers: Answers, seat: Seat, roll: string, version: number }

/** The card of one person, with the words of a language. The name printed is the certificate's; the identity proof shows its last four places. */
export function cardContent(notice: Notice, subject: CardSubject, words: CardWords): CardContent {
  const { answers } = subject
  const { cardLabels, cardTexts } = words.papers
  const say = (text: string, parameters: MessageParameters) => formatMessage(words.locale, text, parameters)
  const row = (label: CardLabel, text: string): CardRow => ({ label: cardLabels[label], text })
  const { city, venue, room, session } = placeOf(notice, subject.seat)
  const proof = identityProof(notice, answers, words)
  const chair = say(cardTexts.seat, { room: room.title, seat: subject.seat.seat })
  const posts = notice.posts.filter(p => [answers.posts].flat().includes(p.id)).map(p => p.title)
  const category = notice.categories.find(c => c.id === textAnswer(answers, 'category'))?.title ?? ''
  return {
    language: words.code, body: notice.body.name, address: notice.body.address, examination: notice.title, title: notice.card.title,
    name: textAnswer(answers, 'certificateName'), application: subject.number, roll: subject.roll, version: subject.version,
    person: [
      row('born', spellBirthday(textAnswer(answers, 'bornOn'))), row('category', category), row('posts', posts.join(', ')),
      row('identity', say(cardTexts.original, { proof })), row('identityName', textAnswer(answers, 'identityName')),
    ],
    sitting: [
      row('centre', venue.title), row('address', `${venue.address}, ${city.title}, ${city.island}`),
      row('session', `${session.title}, ${spellDate(session.date)}`), row('report', `${session.reporting} ${notice.body.zone.name}`),
      row('gate', `${session.gateCloses} ${notice.body.zone.name}`), row('test', say(cardTexts.time, { starts: session.starts, ends: session.ends })),
      ...granted(notice, answers, session, words),
      row('seat', subject.seat.accessible ? say(needsStepFree(notice, answers) ? cardTexts.stepFree : cardTexts.stepFreeOnly, { seat: chair }) : chair),
    ],
    instructions: notice.card.instructions,
  }
}

/** What the signed code of the card says. */
export function codeContent(notice: Notice, subject: CardSubject, photographSha256: string, words: CardWords): CodeContent {
  const { venue, room, session } = placeOf(notice, subject.seat)
  return {
    cycle: notice.code, application: subject.number, roll: subject.roll, name: textAnswer(subject.answers, 'certificateName'),
    born: textAnswer(subject.answers, 'bornOn'), session: session.title, date: session.date, venue: venue.title,
    seat: `${room.title} / ${subject.seat.seat}`, identity: identityProof(notice, subject.answers, words), version: subject.version,
    photograph: photographSha256.slice(0, 16),
  }
}

/** What was granted and is told at the gate: more time, with the end that follows, and a scribe. */
function granted(notice: Notice, answers: Answers, session: Session, { locale, papers: { cardLabels, cardTexts } }: CardWords): CardRow[] {
  const anHour = minutesAnHour(notice, answers)
  const minutes = extraMinutes(session, anHour)
  return [
    ...anHour > 0 ? [{ label: cardLabels.time, text: formatMessage(locale, cardTexts.moreTime, { minutes, ends: clockAfter(session.ends, minutes) }) }] : [],
    ...grantedRequests(notice, answers).filter(rule => rule.kind === 'scribe').map((rule) => {
      // What was written: a name, say. Choices say why somebody needs one, which is nobody's business at the gate.
      const written = notice.sections.flatMap(s => s.questions).filter(q => q.kind === 'text' || q.kind === 'name').map(q => q.id)
      const said = saidOf(rule, answers).flatMap(({ question, answer }) => typeof answer === 'string' && written.includes(question) ? [answer] : []).join(', ')
      return { label: cardLabels.scribe, text: formatMessage(locale, cardTexts.ownScribe, { title: rule.title, said, isSaid: said ? 'yes' : 'no' }) }
    }),
  ]
}

function identityProof(notice: Notice, answers: Answers, { locale, papers }: CardWords): string {
  const question = notice.sections.flatMap(s => s.questions).find(q => q.id === 'identityKind')
  const options = question?.kind === 'choice' ? question.options : []
  const title = options.find(o => o.id === textAnswer(answers, 'identityKind'))?.title ?? ''
  return formatMessage(locale, papers.cardTexts.proof, { kind: title, last: textAnswer(answers, 'identityNumber').slice(-4) })
}

function placeOf(notice: Notice, seat: Seat) {
  const city = notice.cities.find(c => c.id === seat.city)
  const venue = city?.venues.find(v => v.id === seat.venue)
  const room = venue?.rooms.find(r => r.id === seat.room)
  const session = notice.sessions.find(s => s.id === seat.session)
  if (!city || !venue || !room || !session) throw new RangeError(`seat ${seat.venue}/${seat.room}/${seat.session} is not in the notice`)
  return { city, venue, room, session }
}
