import { addDays, type CalendarDate } from '../core/calendar/calendar-date'
import { liveSheet, type Answers, type Row } from '../core/application/answers'
import { numberFault } from '../core/identity/number-shape'
import type { Notice } from '../core/notice/schema'
import type { Random } from './random'

/** Invented names from syllable lists of five invented languages; one is written in Devanagari and one in Arabic script. */
const languages = [
  {
    given: [['ta', 've', 'o', 'mi', 'sa'], ['vi', 'ri', 'lu', 'na'], ['rel', 'lin', 'ra', 'dan']],
    family: [['osk', 'hal', 'bren', 'tor'], ['an', 'er', 'ul'], ['dé', 'mark', 'wen', 'sø']],
  },
  {
    given: [['ca', 'lo', 'ju', 'pe'], ['ssi', 'ri', 'ma'], ['mir', 'ndo', 'lle', 'na']],
    family: [['qui', 'pa', 'ti'], ['llo', 'la', 'ndro'], ['nesse', 'nor', 'va']],
  },
  {
    given: [['mar', 'su', 'il', 'en'], ['a', 'de', 'o'], ['vey', 'rin', 'lo', 'sha']],
    family: [['tam', 'ku', 'ber'], ['se', 'ri', 'lo'], ['nport', 'gan', 'thay']],
  },
  {
    given: [['वे', 'सो', 'का', 'नि'], ['रा', 'मि', 'लो'], ['णे', 'ता', 'शा']],
    family: [['को', 'दा', 'अ'], ['ल्मि', 'र्वे', 'सा'], ['रा', 'णी', 'टी']],
  },
  {
    given: [['سا', 'مي', 'لو', 'نا'], ['ري', 'لا', 'دو'], ['ن', 'ر', 'م']],
    family: [['با', 'قا', 'تي'], ['لو', 'ري', 'سا'], ['ن', 'ف', 'ر']],
  },
] as const

export interface Person {
  answers: Answers
  language: number
}

/** The answers of one made-up person; all fit the notice. */
export function makePerson(random: Random, notice: Notice, index: number): Person {
  const language = index % 12 === 7 ? 3 : index % 12 === 11 ? 4 : random.whole(0, 2)
  const name = makeName(random, language)
  const home = weightedCity(random, notice)
  const category = random.pick(['general', 'general', 'general', 'outer-isles', 'outer-isles', 'fisher-families', 'service-dependants'])
  const pwd = random.chance(0.09)
  const keeper = random.chance(0.55)
  const [obtained, total] = [random.whole(keeper ? 245 : 310, 488), 500]
  const qualification = random.pick(keeper ? ['year-10', 'year-12', 'diploma', 'degree'] : ['year-12', 'year-12', 'diploma', 'degree'])
  const young = !keeper || random.chance(0.4)
  const bothPosts = keeper && young && obtained >= 300 && qualification !== 'year-10' && random.chance(0.5)
  const answers: Answers = {
    certificateName: name,
    identityName: random.chance(0.12) ? otherWriting(name) : name,
    bornOn: bornOn(random, notice.keyDates.ageOn, keeper ? (young ? [22, 23] : [24, 34]) : [19, 23]),
    gender: random.pick(['woman', 'man', 'man', 'woman', 'other']),
    ...identity(notice, random),
    mobile: `55501${String(random.whole(0, 99_999)).padStart(5, '0')}`,
    email: `person${index + 1}@post.example`,
    postalCode: `${home.postalPrefix}${String(random.whole(0, 999)).padStart(3, '0')}`,
    address: `${random.whole(1, 80)} ${random.pick(['Net Lane', 'Beacon Street', 'Ferry Steps', 'Anchor Court'])}`,
    category,
    lowIncome: random.chance(0.2) ? 'yes' : 'no',
    pwd: pwd ? 'yes' : 'no',
    nationality: keeper && !bothPosts && random.chance(0.06) ? 'resident' : 'ilmaran',
    residence: random.chance(0.85) ? 'birth' : 'years',
    qualification,
    resultAwaited: 'no',
    passedIn: String(random.whole(2014, 2025)),
    ...statedResult(random, obtained, total, qualification),
    worked: random.chance(0.3) ? 'yes' : 'no',
    attempts: String(random.pick([0, 0, 0, 1, 1, 2, 3])),
    posts: bothPosts ? ['pilot-cadet', 'lighthouse-keeper'] : [keeper ? 'lighthouse-keeper' : 'pilot-cadet'],
    cities: cityChoices(random, notice, home.id),
  }
  if (category === 'outer-isles') answers.islesCertificate = `OI-${random.whole(10_000, 99_999)}`
  if (category === 'service-dependants') {
    Object.assign(answers, { serviceRelation: random.pick(['serving', 'retired']), serviceYears: String(random.whole(4, 30)) })
  }
  if (answers.residence === 'years') answers.residenceYears = String(random.whole(2, 20))
  if (qualification !== 'year-10' && qualification !== 'year-12') {
    answers.discipline = random.pick(['electrical', 'radio', 'navigation', 'commerce', 'other-discipline'])
  }
  if (answers.worked === 'yes') answers.periods = workPeriods(random)
  if (pwd) {
    Object.assign(answers, {
      pwdKind: random.pick(['movement', 'movement', 'other-kind', ...(keeper && !bothPosts ? ['sight', 'hearing'] : [])]),
      pwdDegree: random.chance(0.8) ? 'benchmark' : 'below',
      stepFree: random.chance(0.6) ? 'yes' : 'no',
    })
  }
  return { answers, language }
}

/** A paper of some kind, with a number that is written as those of its kind are. */
function identity(notice: Notice, random: Random): Answers {
  const identityKind = random.pick(['seafarers-book', 'passport', 'residence-card', 'driving-licence', 'voter-card', 'crew-card',
    'pension-book'])
  const figures = String(random.whole(1_000_000, 9_999_999))
  const asked = liveSheet(notice, { identityKind }).asked.find(question => question.id === 'identityNumber')
  const [shape] = asked?.kind === 'text' ? asked.shapes ?? [] : []
  if (!shape) return { identityKind, identityNumber: `SB${figures}` }
  const letters = shape.example.replace(/[^A-Z]/g, '')
  const places = shape.shape.replace(/[^9]/g, '').length
  // One of the numbers that end so has check digits that agree.
  for (let end = 0; end < 100; end += 1) {
    const digits = [...figures.repeat(2).slice(0, places - 2), ...String(end).padStart(2, '0')]
    const identityNumber = shape.shape.replace(/^A+/, letters).replace(/9/g, () => digits.shift() ?? '')
    if (numberFault(identityNumber, [shape]) === null) return { identityKind, identityNumber }
  }
  return { identityKind, identityNumber: shape.example }
}

/** A result as one of the boards states it, near the given marks. */
function statedResult(random: Random, obtained: number, total: number, qualification: string): Answers {
  const share = obtained / total
  const way = random.whole(0, 9)
  if (qualification === 'degree' || way === 9) return { board: 'veyrane', resultForm: 'points', gradePoint: (share * 10).toFixed(2) }
  if (way < 6) {
    return {
      board: random.pick(['northern-isles', 'other-board']),
      resultForm: 'total',
      marksObtained: String(obtained),
      marksTotal: String(total),
    }
  }
  const near = () => String(Math.min(100, Math.max(34, Math.round(share * 100) + random.whole(0, 12))))
  const subjects = ['language', 'second-language', 'mathematics', 'physics', 'geography', 'physical-training']
  return {
    board: way === 6 ? 'lohn' : 'federal',
    resultForm: 'subjects',
    subjects: subjects.map(subject => ({ subject, obtained: near(), total: '100', grade: '' })),
  }
}

function workPeriods(random: Random): Row[] {
  const year = random.whole(2021, 2024)
  const first = {
    employer: random.pick(['Harbour office, Lohn', 'Ferry line of Skarn', 'Light station, Ottrevik']),
    from: `${year}-03-01`,
    to: `${year}-${random.pick(['09', '11'])}-30`,
  }
  return random.chance(0.5)
    ? [first]
    : [first, { employer: 'Pilot launch, Veyrane', from: `${year}-${random.pick(['08', '12'])}-01`, to: `${year + 1}-06-30` }]
}

export function makeName(random: Random, language: number): string {
  const parts = languages[language] ?? languages[0]
  const word = (syllables: readonly (readonly string[])[]) => {
    const made = syllables.map(list => random.pick(list)).join('')
    return made.charAt(0).toLocaleUpperCase('en') + made.slice(1)
  }
  return `${word(parts.given)} ${word(parts.family)}`.normalize('NFC')
}

function otherWriting(name: string): string {
  const [given = '', family = ''] = name.split(' ')
  return /[a-z]/i.test(given) ? `${given.charAt(0)}. ${family.normalize('NFD').replace(/[\u0300-\u036f]/g, '')}` : `${family} ${given}`
}

// Big towns send most people and are asked for most: the first city of each island counts more.
function weightedCity(random: Random, notice: Notice): Notice['cities'][number] {
  const firsts = notice.cities.filter((city, i) => notice.cities.findIndex(c => c.island === city.island) === i)
  return random.chance(0.55) ? random.pick(firsts) : random.pick(notice.cities)
}

function cityChoices(random: Random, notice: Notice, home: string): string[] {
  const wanted = random.whole(2, 5)
  const choices = new Set<string>(random.chance(0.8) ? [home] : [])
  while (choices.size < wanted) choices.add(weightedCity(random, notice).id)
  return [...choices]
}

function bornOn(random: Random, on: CalendarDate, years: [number, number]): CalendarDate {
  return addDays(on, -Math.floor(random.between(years[0] * 365.25 + 2, (years[1] + 1) * 365.25 - 2)))
}
