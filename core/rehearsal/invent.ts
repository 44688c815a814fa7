import { liveSheet, textAnswer, type Answers, type Row } from '../application/answers'
import { postLimits } from '../application/post-limits'
import { collisionsAmong } from '../application/timetable'
import { addDays, daysBetween, firstOfMonth, type CalendarDate } from '../calendar/calendar-date'
import { evaluatePosts, type PostVerdict } from '../eligibility/evaluate'
import type { Column } from '../notice/questions'
import type { Notice, Question } from '../notice/schema'
import type { Random } from '../random'

/** From, to, and where most lie. */
export interface Bell {
  from: number
  most: number
  to: number
}

/**
 * Who is invented: ages in completed years on the notice's day, results in percent, and how often each option of a choice and each city is
 * taken. What is not named is taken as often as its neighbours.
 */
export interface Spread {
  people: number
  age: Bell
  marks: Bell
  options: Readonly<Record<string, Readonly<Record<string, number>>>>
  cities: Readonly<Record<string, number>>
}

/** Somebody invented, with what the notice says of every post. */
export interface Invented {
  answers: Answers
  verdicts: PostVerdict[]
}

/**
 * Invents somebody who answers all that the notice asks of them, as well as it can be answered: cities near what the spread says, posts
 * among those that are open to them. Whatever cannot be answered so stays as it is, and is a fault of the sheet.
 *
 * @param today the day in the body's zone on which the form is filled in.
 */
export function inventPerson(notice: Notice, spread: Spread, random: Random, today: CalendarDate): Invented {
  const about: About = {
    notice,
    spread,
    random,
    today,
    percent: random.around(spread.marks.from, spread.marks.most, spread.marks.to),
    home: random.weighed(notice.cities, city => spread.cities[city.id] ?? 1),
  }
  const answers: Answers = {}
  const answered = new Set<string>()
  // What is asked follows from what was answered before; posts come last, when all that decides on them is there.
  for (let round = 0; round < rounds; round += 1) {
    const open = liveSheet(notice, answers).asked.filter(question => !answered.has(question.id))
    if (open.length === 0) break
    const others = open.filter(question => question.kind !== 'posts')
    const ready = others.filter(question => !waits(question))
    for (const question of ready.length > 0 ? ready : others.length > 0 ? others : open) {
      answered.add(question.id)
      if (question.kind === 'posts') answers[question.id] = choosePosts(about, question, answers)
      else if (answers[question.id] === undefined) answers[question.id] = answerOf(about, question, answers)
    }
  }
  return { answers, verdicts: evaluatePosts(notice, answers) }
}

const rounds = 12
/** Nothing is offered, or no way of writing it known, as long as an answer of the same round is not there. */
const waits = (question: Question) =>
  (question.kind === 'choice' && question.options.length === 0) || (question.kind === 'text' && question.shapes?.length === 0)
interface About {
  notice: Notice
  spread: Spread
  random: Random
  today: CalendarDate
  percent: number
  home: Notice['cities'][number]
}

function answerOf(about: About, question: Question, answers: Answers): Answers[string] {
  const { spread, random, percent, home } = about
  switch (question.kind) {
    case 'name':
      return 'Somebody Invented'
    case 'text':
      return question.shapes?.[0]?.example ?? 'invented'.slice(0, question.maxLength)
    case 'email':
      return 'somebody@invented.example'
    case 'mobile':
      return '5'.repeat(question.digits)
    case 'postalCode':
      return home.postalPrefix.padEnd(question.digits, '0').slice(0, question.digits)
    case 'date':
      return toPrecision(dateOf(about, question), question)
    case 'choice':
      return random.weighed(question.options, option => spread.options[question.id]?.[option.id] ?? 1).id
    case 'number':
      return String(question.id === 'passedIn'
        ? Math.min(question.max, Math.max(question.min, yearOf(about.today) - random.whole(0, 8)))
        : random.whole(question.min, question.max))
    case 'marks':
      return marksOf(question, percent, answers)
    case 'table':
      return rowsOf(about, question)
    case 'cities':
      return rankCities(about, question)
    case 'posts':
      return []
  }
}

const yearOf = (date: CalendarDate): number => Number(date.slice(0, 4))

const toPrecision = (day: CalendarDate, { monthOnly }: { monthOnly?: boolean | undefined }) => monthOnly ? firstOfMonth(day) : day

function dateOf(
  { notice, spread, random, today }: About,
  { id, future, notBefore, notAfter }: Extract<Question, { kind: 'date' }>,
): CalendarDate {
  if (id === 'bornOn') {
    const years = Math.floor(random.around(spread.age.from, spread.age.most, spread.age.to + 0.999))
    const birthday = `${yearOf(notice.keyDates.ageOn) - years}${notice.keyDates.ageOn.slice(4).replace('-02-29', '-02-28')}`
    return addDays(birthday, -random.whole(0, 364))
  }
  const [first, last] = future
    ? [today, addDays(today, 180)]
    : [notBefore ?? addDays(today, -3650), notAfter !== undefined && notAfter < today ? notAfter : today]
  const day = addDays(first, random.whole(0, Math.max(0, daysBetween(first, last))))
  return notAfter !== undefined && day > notAfter ? notAfter : notBefore !== undefined && day < notBefore ? notBefore : day
}

/** A mark out of the one it may not lie above, else in percent. A total comes out as five hundred, as does one that was not given yet. */
function marksOf({ id, notAbove }: Extract<Question, { kind: 'marks' }>, percent: number, answers: Answers): string {
  if (notAbove !== undefined) {
    if (textAnswer(answers, notAbove) === '') answers[notAbove] = wholeMarks
    return ((Number(textAnswer(answers, notAbove)) || 0) * percent / 100).toFixed(2)
  }
  if (/total/i.test(id)) return wholeMarks
  return (id === 'gradePoint' ? percent / 10 : percent).toFixed(2)
}
const wholeMarks = '500'

function rowsOf(about: About, { columns, minRows, maxRows }: Extract<Question, { kind: 'table' }>): Row[] {
  const { random, today } = about
  const count = Math.min(maxRows, Math.max(minRows, random.whole(minRows, minRows + 4)))
  let day = addDays(today, -random.whole(400, 3000))
  const taken = new Set<string>()
  return Array.from({ length: count }, () => {
    const row: Row = {}
    for (const column of columns) row[column.id] = cellOf(about, column, row, taken, () => day = addDays(day, random.whole(20, 300)))
    return row
  })
}

function cellOf({ random, percent, today }: About, column: Column, row: Row, taken: Set<string>, nextDay: () => CalendarDate): string {
  switch (column.kind) {
    case 'text':
      return column.required ? 'invented'.slice(0, column.maxLength) : ''
    case 'choice': {
      // Of several rows each names another.
      const free = column.options.filter(option => !taken.has(option.id))
      const { id } = random.pick(free.length > 0 ? free : column.options)
      taken.add(id)
      return id
    }
    case 'marks': {
      if (column.notAbove === undefined) return '100'
      row[column.notAbove] ??= '100'
      return (Number(row[column.notAbove]) * Math.min(100, Math.max(0, percent + random.between(-8, 8))) / 100).toFixed(0)
    }
    case 'date': {
      const day = nextDay()
      return toPrecision(day > today ? today : day, column)
    }
  }
}

/** The home city first for most, then others by how often they are taken. */
function rankCities({ notice, spread, random, home }: About, { min, max }: Extract<Question, { kind: 'cities' }>): string[] {
  const wanted = Math.min(notice.cities.length, Math.max(min, Math.min(max, random.whole(min, max))))
  const ranked = [home]
  while (ranked.length < wanted) {
    ranked.push(random.weighed(notice.cities.filter(city => !ranked.includes(city)), city => spread.cities[city.id] ?? 1))
  }
  return ranked.map(city => city.id)
}

/** As many as somebody may choose and likes to, among those that are not shut to them; where all are, one of those, as people do. */
function choosePosts({ notice, spread, random }: About, question: Extract<Question, { kind: 'posts' }>, answers: Answers): string[] {
  const open = evaluatePosts(notice, answers).filter(verdict => verdict.verdict !== 'fail').map(verdict => verdict.post)
  const pool = open.length > 0 ? open : notice.posts.map(post => post.id)
  const wanted = Math.min(pool.length, random.whole(question.min, question.max))
  const chosen: string[] = []
  const left = [...pool]
  while (left.length > 0 && (chosen.length < wanted || postLimits(notice, answers, chosen).some(limit => limit.fault === 'too few'))) {
    // What a group still wants comes before what is liked.
    const lacking = postLimits(notice, answers, chosen).filter(limit => limit.of === 'group' && limit.fault === 'too few').flatMap(limit =>
      question.groups.find(group => group.title === limit.title)?.posts ?? []
    )
    const next = random.weighed(left, post => (spread.options[question.id]?.[post] ?? 1) * (lacking.includes(post) ? 1000 : 1))
    left.splice(left.indexOf(next), 1)
    // Nobody takes what the timetable shows to collide.
    const isSat = collisionsAmong(notice, answers, [...chosen, next]).length === 0
    if (isSat && !postLimits(notice, answers, [...chosen, next]).some(limit => limit.fault === 'too many')) chosen.push(next)
  }
  return chosen
}
