import { addDays } from '../core/calendar/calendar-date'
import { dateInZone, instantInZone } from '../core/calendar/zone'
import type { Notice } from '../core/notice/schema'

/**
 * The second cycle of the demo: many applicants, large halls, no fee (the colleges pay), one of three papers each. Sheet, boards and
 * places are those of the first notice.
 */
export function marineCollegesNotice(first: Notice, now: Date): Notice {
  const notice = structuredClone(first)
  const clause = (code: string, place: string, text: string, rule: Notice['posts'][number]['clauses'][number]['rule']) => ({
    code,
    clause: place,
    text,
    rule,
  })
  const papers = [{ id: 'naval-engineering', title: 'Naval engineering' }, { id: 'oceanography', title: 'Oceanography' }, {
    id: 'maritime-law',
    title: 'Maritime law',
  }]
  notice.code = 'MC27'
  notice.title = 'Marine Colleges Entrance Test'
  if (notice.information) {
    const { steps } = notice.information
    notice.information = {
      ...notice.information,
      summary: 'One entrance test for all marine colleges. Nothing is paid: the colleges bear the cost.',
      news: [],
      steps: ['Look when each paper is held: two that are held at one time cannot both be sat.', ...steps.slice(1, 3), 'Hand the form in.',
        ...steps.slice(4)],
    }
  }
  notice.posts = papers.map((paper, i) => ({
    ...paper,
    testPapers: [],
    clauses: [
      clause('age', `${i + 3}.1`, 'Not below 17 years on the date of the test.', {
        kind: 'age',
        minYears: 17,
        relaxations: [],
        combine: 'largest',
      }),
      clause(
        'qualification',
        `${i + 3}.2`,
        'Middle school, year 10, or more.',
        { kind: 'qualification', atLeast: 'year-10' } as Notice['posts'][number]['clauses'][number]['rule'],
      ),
    ],
  }))
  notice.sections = notice.sections.map(section => ({
    ...section,
    questions: section.questions.map(q => q.kind === 'posts' ? { ...q, label: 'Paper', max: 1 } : q),
  }))
  // Of what may be asked for, more time alone: there is nothing else to write with than one's own hand.
  const notAsked = ['scribe', 'scribeName', 'certificateLater', 'ageException', 'exceptionWhy']
  notice.sections = notice.sections.map(section => ({ ...section, questions: section.questions.filter(q => !notAsked.includes(q.id)) }))
  notice.requests = notice.requests.filter(rule => rule.kind === 'time').map(rule => ({ ...rule, papers: [] }))
  notice.documents = notice.documents.filter(document => document.identity)
  delete notice.endorsements
  delete notice.terms
  // Applications have closed, so that places may be made known; cards go out later.
  const { zone } = notice.body
  const day = (days: number, time: string) => instantInZone(addDays(dateInZone(now, zone), days), time, zone).toISOString()
  notice.keyDates = {
    ...notice.keyDates,
    opens: day(-40, '09:00'),
    closes: day(-3, '17:00'),
    lastPayment: day(-2, '17:00'),
    correctionOpens: day(-1, '09:00'),
    correctionCloses: day(6, '17:00'),
    cardsFrom: day(20, '09:00'),
  }
  notice.fees = {
    ...notice.fees,
    base: notice.categories.map(c => ({ category: c.id, amount: 0 })),
    further: [],
    posts: [],
    late: [],
    surcharges: [],
    waivers: [],
  }
  notice.cities = notice.cities.map(city => ({
    ...city,
    // The rooms of the same places, set closer: the smaller towns have more seats than people who name them first.
    venues: city.venues.map(venue => ({
      ...venue,
      rooms: venue.rooms.map(room => ({ ...room, seats: room.seats * 24, accessibleSeats: Math.ceil(room.seats * 1.5) })),
    })),
  }))
  notice.allocation.restrictions = [
    {
      title: 'Naval engineering is not held in Umberley and Kessandry: no workshop',
      when: { question: 'posts', in: ['naval-engineering'] },
      closedCities: ['umberley', 'kessandry'],
    },
    {
      title: 'People who need a step-free way are placed within 400 km of home',
      when: { question: 'stepFree', in: ['yes'] },
      closedCities: [],
      withinKm: 400,
    },
  ]
  notice.card = { ...notice.card, title: 'Admit card: Marine Colleges Entrance Test' }
  return notice
}

/**
 * The same cycle with a test paper for each subject: naval engineering and maritime law at the same time, oceanography in one of two
 * sessions. Up to two may be chosen where they do not collide. One session takes most of them, so the halls are twice as large.
 */
export function withTestPapers(notice: Notice): Notice {
  const [first, second] = notice.sessions
  if (!first || !second) throw new RangeError('The cycle needs two sessions.')
  const later = { ...first, id: 'second-day', title: 'Second day, forenoon', date: addDays(first.date, 1) }
  const held: Record<string, string[]> = {
    'naval-engineering': [first.id],
    'oceanography': [second.id, later.id],
    'maritime-law': [first.id],
  }
  return {
    ...notice,
    sessions: [{ ...first, title: 'First day, forenoon' }, { ...second, title: 'First day, afternoon' }, later],
    testPapers: notice.posts.map(({ id, title }) => ({
      id: `${id}-paper`,
      title: `Paper in ${title.toLowerCase()}`,
      sessions: held[id] ?? [first.id],
    })),
    posts: notice.posts.map(post => ({ ...post, testPapers: [`${post.id}-paper`] })),
    cities: notice.cities.map(city => ({
      ...city,
      venues: city.venues.map(venue => ({
        ...venue,
        rooms: venue.rooms.map(room => ({ ...room, seats: room.seats * 2, accessibleSeats: room.accessibleSeats * 2 })),
      })),
    })),
    sections: notice.sections.map(section => ({
      ...section,
      questions: section.questions.map(q => q.kind === 'posts' ? { ...q, label: 'Papers', max: 2 } : q),
    })),
  }
}
