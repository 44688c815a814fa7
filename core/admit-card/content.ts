import { filledText } from '../notice/placeholders'
import type { Notice, ImageKind } from '../notice/schema'
import type { Session } from '../notice/centre-schema'
import { printedName, textAnswer, type Answers } from '../application/answers'
import type { Sitting } from '../seating/sittings'
import { spellBirthday, spellDate } from '../calendar/zone'
import { holdsSeat } from '../application/acts/guards'
import { clockAfter, extraMinutes, grantedRequests, minutesAnHour, needsStepFree, saidOf } from '../application/requests'
import { startOf } from '../application/timetable'
import { isFeeClear, type Tracks } from '../application/tracks'
import { formatMessage, type MessageParameters } from '../words/message'
import type { CodeContent } from './code'

/** Why a card cannot be issued now. Each names what clears it; words come from the code. */
export type CardBlocker = 'form' | 'fee' | 'scrutiny' | 'placement' | 'hold' | 'request' | 'letters' | ImageKind

/**
 * Everything that stands between an application and its card, of the images those `wanted`; `isHeld` when somebody withholds it by hand,
 * `isAsking` while a request waits for the office, `isUnprintable` when no face has a letter of a name; empty when the card may be issued.
 */
export function cardBlockers(
  tracks: Tracks,
  images: Partial<Record<ImageKind, unknown>>,
  wanted: readonly ImageKind[],
  { isHeld = false, isAsking = false, isUnprintable = false } = {},
): CardBlocker[] {
  const blockers: CardBlocker[] = []
  if (tracks.form !== 'submitted') blockers.push('form')
  if (!isFeeClear(tracks.fee)) blockers.push('fee')
  if (tracks.scrutiny !== 'accepted') blockers.push('scrutiny')
  if (!holdsSeat(tracks)) blockers.push('placement')
  if (isHeld) blockers.push('hold')
  if (isAsking) blockers.push('request')
  if (isUnprintable) blockers.push('letters')
  for (const kind of wanted) if (images[kind] === undefined) blockers.push(kind)
  return blockers
}

/** Names that a card prints, whatever script they are in. */
export const namesOnCard = (answers: Answers): string[] => [printedName(answers), textAnswer(answers, 'identityName')]

/** The facts of a card, by what they are. */
export type CardLabel =
  | 'born'
  | 'category'
  | 'posts'
  | 'identity'
  | 'identityName'
  | 'centre'
  | 'address'
  | 'session'
  | 'report'
  | 'gate'
  | 'test'
  | 'time'
  | 'scribe'
  | 'seat'
/** The words that a card is made with, in one language. */
export interface CardWords {
  code: string
  locale: string
  papers: {
    cardLabels: Record<CardLabel, string>,
    cardTexts: Record<
      'sitting' | 'sittingLonger' | 'original' | 'time' | 'moreTime' | 'ownScribe' | 'proof' | 'seat' | 'stepFree' | 'stepFreeOnly',
      string
    >,
  }
}

export interface CardRow {
  label: string
  text: string
}

/** What a card says, in the order of reading, ready for any printer. */
export interface CardContent {
  /** The language that it was made in; English for cards of earlier versions. */
  language?: string
  body: string
  address: string
  examination: string
  title: string
  name: string
  application: string
  roll: string
  version: number
  person: CardRow[]
  sitting: CardRow[]
  instructions: string[]
}

/** `sittings` are the seats held, at least one, in the order of the test papers. */
export interface CardSubject {
  number: string
  answers: Answers
  sittings: readonly Sitting[]
  roll: string
  version: number
}

/**
 * The card of one person, with the words of a language. The name printed is the certificate's; the identity proof shows its last four
 * places.
 */
export function cardContent(notice: Notice, subject: CardSubject, words: CardWords): CardContent {
  const { answers } = subject
  const { cardLabels, cardTexts } = words.papers
  const say = (text: string, parameters: MessageParameters) => formatMessage(words.locale, text, parameters)
  const row = (label: CardLabel, text: string): CardRow => ({ label: cardLabels[label], text })
  const proof = identityProof(notice, answers, words)
  const posts = notice.posts.filter(p => [answers.posts].flat().includes(p.id)).map(p => p.title)
  const category = notice.categories.find(c => c.id === textAnswer(answers, 'category'))?.title ?? ''
  return {
    language: words.code,
    body: notice.body.name,
    address: notice.body.address,
    examination: notice.title,
    title: notice.card.title,
    name: printedName(answers),
    application: subject.number,
    roll: subject.roll,
    version: subject.version,
    person: [
      row('born', spellBirthday(textAnswer(answers, 'bornOn'))),
      row('category', category),
      row('posts', posts.join(', ')),
      row('identity', say(cardTexts.original, { proof })),
      row('identityName', textAnswer(answers, 'identityName')),
    ],
    sitting: subject.sittings.length > 1
      ? severalSittings(notice, subject, words)
      : subject.sittings.flatMap(seat => oneSitting(notice, answers, seat, words)),
    instructions: notice.card.instructions.map(text => filledText(notice, text)),
  }
}

function oneSitting(notice: Notice, answers: Answers, seat: Sitting, words: CardWords): CardRow[] {
  const { cardLabels, cardTexts } = words.papers
  const row = (label: CardLabel, text: string): CardRow => ({ label: cardLabels[label], text })
  const { city, venue, session } = placeOf(notice, seat)
  return [
    row('centre', venue.title),
    row('address', `${venue.address}, ${city.title}, ${city.island}`),
    row('session', `${session.title}, ${spellDate(session.date)}`),
    row('report', `${session.reporting} ${notice.body.zone.name}`),
    row('gate', `${session.gateCloses} ${notice.body.zone.name}`),
    row('test', formatMessage(words.locale, cardTexts.time, { starts: session.starts, ends: session.ends })),
    ...moreTime(notice, answers, session, words),
    ...ownScribe(notice, answers, words),
    row('seat', chairOf(notice, answers, seat, words)),
  ]
}

/** A row for each paper, in order of time, under the name of the paper; the centre once where it is the same for all. */
function severalSittings(notice: Notice, { sittings, answers }: CardSubject, words: CardWords): CardRow[] {
  const { cardLabels, cardTexts } = words.papers
  const placed = inTime(notice, sittings)
  const anHour = minutesAnHour(notice, answers)
  const centre = (
    venue: { title: string, address: string },
    city: { title: string, island: string },
  ) => [{ label: cardLabels.centre, text: venue.title }, {
    label: cardLabels.address,
    text: `${venue.address}, ${city.title}, ${city.island}`,
  }]
  return [
    ...placed.flatMap(({ seat, city, venue, session }, i): CardRow[] => {
      const minutes = extraMinutes(session, anHour)
      const text = formatMessage(words.locale, minutes > 0 ? cardTexts.sittingLonger : cardTexts.sitting, {
        date: spellDate(session.date),
        starts: session.starts,
        ends: clockAfter(session.ends, minutes),
        minutes,
        reporting: session.reporting,
        gate: session.gateCloses,
        zone: notice.body.zone.name,
        seat: chairOf(notice, answers, seat, words),
      })
      return [...venue.id === placed[i - 1]?.venue.id ? [] : centre(venue, city), {
        label: notice.testPapers.find(paper => paper.id === seat.paper)?.title ?? cardLabels.session,
        text,
      }]
    }),
    ...ownScribe(notice, answers, words),
  ]
}

function chairOf(notice: Notice, answers: Answers, seat: Sitting, { locale, papers: { cardTexts } }: CardWords): string {
  const chair = formatMessage(locale, cardTexts.seat, { room: placeOf(notice, seat).room.title, seat: seat.seat })
  return seat.accessible
    ? formatMessage(locale, needsStepFree(notice, answers) ? cardTexts.stepFree : cardTexts.stepFreeOnly, { seat: chair })
    : chair
}

/** What the signed code of the card says. Several sittings stand one after the other, under the day of the first. */
export function codeContent(notice: Notice, subject: CardSubject, photographSha256: string, words: CardWords): CodeContent {
  const places = inTime(notice, subject.sittings)
  const each = (say: (place: typeof places[number]) => string) => places.map(say).join('; ')
  return {
    cycle: notice.code,
    application: subject.number,
    roll: subject.roll,
    name: printedName(subject.answers),
    born: textAnswer(subject.answers, 'bornOn'),
    session: each(p => p.session.title),
    date: places[0]?.session.date ?? '',
    venue: [...new Set(places.map(p => p.venue.title))].join('; '),
    seat: each(p => `${p.room.title} / ${p.seat.seat}`),
    identity: identityProof(notice, subject.answers, words),
    version: subject.version,
    photograph: photographSha256.slice(0, 16),
  }
}

/** More time that was granted, with the end that follows. */
function moreTime(notice: Notice, answers: Answers, session: Session, { locale, papers: { cardLabels, cardTexts } }: CardWords): CardRow[] {
  const minutes = extraMinutes(session, minutesAnHour(notice, answers))
  return minutes > 0
    ? [{ label: cardLabels.time, text: formatMessage(locale, cardTexts.moreTime, { minutes, ends: clockAfter(session.ends, minutes) }) }]
    : []
}

/** A scribe that was granted and is told at the gate. */
function ownScribe(notice: Notice, answers: Answers, { locale, papers: { cardLabels, cardTexts } }: CardWords): CardRow[] {
  return grantedRequests(notice, answers).filter(rule => rule.kind === 'scribe').map((rule) => {
    // What was written: a name, say. Choices say why somebody needs one, which is nobody's business at the gate.
    const written = notice.sections.flatMap(s => s.questions).filter(q => q.kind === 'text' || q.kind === 'name').map(q => q.id)
    const said = saidOf(rule, answers).flatMap(({ question, answer }) =>
      typeof answer === 'string' && written.includes(question) ? [answer] : []
    ).join(', ')
    return {
      label: cardLabels.scribe,
      text: formatMessage(locale, cardTexts.ownScribe, { title: rule.title, said, isSaid: said ? 'yes' : 'no' }),
    }
  })
}

function identityProof(notice: Notice, answers: Answers, { locale, papers }: CardWords): string {
  const question = notice.sections.flatMap(s => s.questions).find(q => q.id === 'identityKind')
  const options = question?.kind === 'choice' ? question.options : []
  const title = options.find(o => o.id === textAnswer(answers, 'identityKind'))?.title ?? ''
  return formatMessage(locale, papers.cardTexts.proof, { kind: title, last: textAnswer(answers, 'identityNumber').slice(-4) })
}

/** Seats with the places that they are, in order of time. */
const inTime = (notice: Notice, sittings: readonly Sitting[]) =>
  sittings.map(seat => ({ seat, ...placeOf(notice, seat) })).sort((a, b) => startOf(a.session).localeCompare(startOf(b.session)))

function placeOf(notice: Notice, seat: Sitting) {
  const city = notice.cities.find(c => c.id === seat.city)
  const venue = city?.venues.find(v => v.id === seat.venue)
  const room = venue?.rooms.find(r => r.id === seat.room)
  const session = notice.sessions.find(s => s.id === seat.session)
  if (!city || !venue || !room || !session) throw new RangeError(`seat ${seat.venue}/${seat.room}/${seat.session} is not in the notice`)
  return { city, venue, room, session }
}
