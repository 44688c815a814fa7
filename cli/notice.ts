import { writeFileSync } from 'node:fs'
import { parseArgs } from 'node:util'
import { z } from 'zod'
import { parseCalendarDate } from '../core/calendar/calendar-date'
import { dateInZone, isTimeZone } from '../core/calendar/zone'
import { readNotice } from '../core/notice/check'
import { differencesBetween } from '../core/notice/difference'
import { isError } from '../core/notice/finding'
import { noticeJsonSchema } from '../core/notice/form'
import { resolveDates } from '../core/notice/relative-dates'
import { differenceWords } from '../core/words/en/differences'
import { findingLines, InputError, readJsonFile, readNoticeFile } from './input'

const help = `lucid notice check FILE                      every error and warning of a notice; exit code 1 when it has an error
lucid notice compare BEFORE AFTER            what changed, part by part
lucid notice resolve FILE [--on YYYY-MM-DD] [--out FILE]
                                             a notice with dates such as "today+3 17:00" set for a day, by default today
lucid notice schema                          the JSON Schema of a notice's file`

/** What needs no office: a notice checked, two compared, relative dates set. */
export async function notice(args: string[]): Promise<number> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { on: { type: 'string' }, out: { type: 'string' }, help: { type: 'boolean' } },
  })
  const [act, file = '', other = ''] = positionals
  if (values.help || !act) {
    console.log(help)
    return act || values.help ? 0 : 2
  }
  switch (act) {
    case 'check':
      return check(file)
    case 'schema':
      return schema()
    case 'compare':
      return compare(file, other)
    case 'resolve':
      return resolve(file, values.on, values.out)
    default:
      throw new InputError(`"${act}" is nothing that can be done with a notice.\n${help}`)
  }
}

function check(file: string): number {
  const json = readJsonFile(file)
  const { notice: sound, findings } = readNotice(json)
  const warnings = findings.filter(finding => !isError(finding))
  const lines = findingLines(json, findings)
  if (sound) console.log(`${sound.code}, ${sound.title}: no errors, ${warnings.length} warnings; ${sound.posts.length} posts`)
  else console.log(`${file} has ${findings.length - warnings.length} errors and ${warnings.length} warnings:`)
  if (lines.length > 0) console.log(lines.join('\n'))
  return sound ? 0 : 1
}

/** The JSON Schema (draft 2020-12) of a notice's file, made from the schema that reads it. */
function schema(): number {
  console.log(JSON.stringify(noticeJsonSchema(), null, 2))
  return 0
}

function compare(before: string, after: string): number {
  const [old, fresh] = [readNoticeFile(before), readNoticeFile(after)]
  const differences = differencesBetween(old, fresh)
  for (const difference of differences) console.log(differenceWords(fresh, difference))
  if (differences.length === 0) console.log('The two notices say the same.')
  return 0
}

const zoned = z.object({
  body: z.object({
    zone: z.object({ name: z.string(), utcOffsetMinutes: z.number(), timeZone: z.string().refine(isTimeZone).optional() }),
  }),
})

function resolve(file: string, on: string | undefined, out: string | undefined): number {
  const json = readJsonFile(file)
  const parsed = zoned.safeParse(json)
  if (!parsed.success) throw new InputError(`${file} states no zone at body.zone; its times cannot be set without one`)
  if (on !== undefined && !parseCalendarDate(on)) throw new InputError(`--on ${on} is no day; give one as YYYY-MM-DD`)
  const { zone } = parsed.data.body
  const text = JSON.stringify(resolveDates(json, on ?? dateInZone(new Date(), zone), zone), null, 2)
  if (out === undefined) console.log(text)
  else writeFileSync(out, `${text}\n`)
  return 0
}
