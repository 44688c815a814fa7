import { and, desc, eq } from 'drizzle-orm'
import { cycle, noticeVersion } from '../../database/schema'
import { languagesOf, noticeIn, writtenIn } from '../../../core/notice/languages'
import type { Notice } from '../../../core/notice/schema'
import type { HandoutView, VersionRow } from '../../../shared/notice'
import type { Caller } from '../context'
import { listHandouts } from './handouts'
import { versionsInForce } from './in-force'
import { currentNotice, noticeOfVersion } from './notices'

/** What anybody may read of the examinations: their notices as they are in force, and the office's clock. */
export interface Examination {
  notice: Notice
  version: number
  now: Date
}
/** One examination with what its versions changed, and files to read. */
export interface ExaminationRead extends Examination {
  versions: VersionRow[]
  handouts: HandoutView[]
  /** The language in which its texts are. */
  readIn: string
}

const shownAtMost = 50

/** The examinations of the office, those that close last first. */
export async function listExaminations(caller: Caller): Promise<Examination[]> {
  const { db, now } = await caller.authorise('examinations.read')
  const rows = await db.select({ code: cycle.code, version: cycle.noticeVersion }).from(cycle).innerJoin(
    noticeVersion,
    and(eq(noticeVersion.cycle, cycle.code), eq(noticeVersion.version, cycle.noticeVersion)),
  ).orderBy(desc(noticeVersion.createdAt)).limit(shownAtMost)
  const at = now()
  const examinations: Examination[] = []
  for (const { code, version } of rows) examinations.push({ notice: await noticeOfVersion(db, code, version), version, now: at })
  return examinations.sort((a, b) => Date.parse(b.notice.keyDates.closes) - Date.parse(a.notice.keyDates.closes))
}

/** One examination by the code of its cycle, its texts in a language that it has, else as they were written. */
export async function readExamination(caller: Caller, code: string, language: string | null = null): Promise<ExaminationRead> {
  const { db, now } = await caller.authorise('examinations.read', { cycle: code })
  const handouts = (await listHandouts(caller, code)).filter(one => one.isLaidOut)
  const { notice, version } = await currentNotice(db, code)
  const readIn = languagesOf(notice).find(one => one === language) ?? writtenIn(notice)
  return { notice: noticeIn(notice, readIn), version, now: now(), versions: await versionsInForce(caller, code), handouts, readIn }
}
