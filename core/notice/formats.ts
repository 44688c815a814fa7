/**
 * The formats of a notice's file, and the steps that bring an older one to the present. A step knows one format and the next, never
 * changes what the notice means, and stays for ever: notices of every format lie in databases and folders.
 */
export const noticeFormat = 20

type Json = Record<string, unknown>
const isObject = (value: unknown): value is Json => typeof value === 'object' && value !== null && !Array.isArray(value)

const steps: Record<number, (notice: Json) => Json> = {
  // Format 1 carried no number. It knew no last moment to pay: money was taken as long as corrections were. Nobody's application ended
  // by the clock, and cities had their number from their place in the list.
  1: (notice) => {
    const keyDates = isObject(notice.keyDates) ? notice.keyDates : {}
    const cities = Array.isArray(notice.cities) ? notice.cities as unknown[] : []
    return {
      ...notice,
      format: 2,
      keyDates: { ...keyDates, lastPayment: keyDates.correctionCloses },
      outcomes: { unanswered: 'as it stood', answerDays: 7 },
      secondPerson: [],
      cities: cities.map((city, place) => isObject(city) ? { ...city, number: place + 1 } : city),
    }
  },
  // Format 2 described every city. Since then they may be named only, and are described in the register of centres.
  2: notice => ({ ...notice, format: 3 }),
  // Format 3 knew no expected numbers, no days of rest, no information for everybody, and one base fee a category. All of it may be left
  // out.
  3: notice => ({ ...notice, format: 4 }),
  // Format 4 said nothing of how scrutiny works. It may be left out.
  4: notice => ({ ...notice, format: 5 }),
  // Format 5 knew no corrections that candidates begin. They may be left out.
  5: notice => ({ ...notice, format: 6 }),
  // Format 6 knew no requests. They may be left out.
  6: notice => ({ ...notice, format: 7 }),
  // Format 7 knew no charges of the way of paying. They may be left out.
  7: notice => ({ ...notice, format: 8 }),
  // Format 8 knew one fee for each further post, one late period, no fee of a post by itself, and no fee that is paid before the form is
  // handed in.
  8: (notice) => {
    if (!isObject(notice.fees)) return { ...notice, format: 9 }
    const { additionalPost, late, ...fees } = notice.fees
    const further = additionalPost === 0 || additionalPost === undefined ? [] : [{ from: 2, amount: additionalPost }]
    return { ...notice, format: 9, fees: { ...fees, further, late: late === undefined ? [] : [late] } }
  },
  // Format 9 knew no test papers: everybody sat once. They may be left out.
  9: notice => ({ ...notice, format: 10 }),
  // Format 10 took every waiver that fits, named nobody who pays for somebody else, and knew no quiet hours. All of it may be left out.
  10: notice => ({ ...notice, format: 11 }),
  // Format 11 asked nothing of a signature's lines, ink, parts and shape. It may be left out.
  11: notice => ({ ...notice, format: 12 }),
  // Format 12 knew no blur of a face. It may be left out.
  12: notice => ({ ...notice, format: 13 }),
  // Format 13 lowered no least age for some. It may be left out.
  13: notice => ({ ...notice, format: 14 }),
  // Format 14 kept no seats for some, and no post opened later than the others. Both may be left out.
  14: notice => ({ ...notice, format: 15 }),
  // Format 15 knew no seats that nobody can sit on, no sessions in which a room is not free, nobody to ask at a venue, no clocks that are
  // set forward and back, one language, no letters in the office's own words, nobody who issues proofs, and no age of a picture. All of it
  // may be left out.
  15: notice => ({ ...notice, format: 16 }),
  // Format 16 asked nothing of anybody but the candidate. It may be left out.
  16: notice => ({ ...notice, format: 17 }),
  // Format 17 had one text to accept, the declaration. Others may be left out.
  17: notice => ({ ...notice, format: 18 }),
  // Format 18 knew no ways of writing a number, no choices that are open to some, and no answers taken over. All of it may be left out.
  18: notice => ({ ...notice, format: 19 }),
  // Format 19 knew no dates without a day, no posts in an order of preference, no part of the form that comes after the files, and no
  // text that is accepted by more than a tick. All of it may be left out.
  19: notice => ({ ...notice, format: 20 }),
}

export type Upgraded = { json: unknown, newerFormat?: undefined } | { json: null, newerFormat: number }

/** The same notice in the present format; a notice of a newer program is named as such. What is no notice is given back as it is. */
export function upgradeNotice(json: unknown): Upgraded {
  if (!isObject(json)) return { json }
  let notice = json
  for (let format = formatOf(notice); format < noticeFormat; format = formatOf(notice)) {
    const step = steps[format]
    if (!step) return { json: notice }
    notice = step(notice)
  }
  const format = formatOf(notice)
  return format > noticeFormat ? { json: null, newerFormat: format } : { json: notice }
}

function formatOf(notice: Json): number {
  if (notice.format === undefined) return 1
  return typeof notice.format === 'number' && Number.isInteger(notice.format) && notice.format > 0 ? notice.format : noticeFormat
}
