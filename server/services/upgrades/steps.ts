import { and, asc, eq, gt, sql } from 'drizzle-orm'
import { cardContent } from '../../../core/admit-card/content'
import { describedCities } from '../../../core/notice/centres'
import { parseNoticeFile } from '../../../core/notice/check'
import { english } from '../../../core/words/en'
import { alone, type Database } from '../../database/client'
import { admitCard, application, cycle, dataUpgrade, noticeVersion, seat } from '../../database/schema'
import { settleMatters } from '../acts/matters'
import { sealKeysAnew } from '../cards/keys'
import { countedAnswers } from '../applications/store'
import { enterCentres } from '../centres/register'
import { productCaller, type Context } from '../context'
import { currentNotice } from '../notice/notices'
import { sealFactorsAnew } from '../people/second-factor'
import { rewriteStale } from '../roster/keep'

/**
 * A step that brings rows of an older program to the present shape, where a migration in SQL cannot. It may be run again after it broke
 * off.
 */
interface Step {
  name: string
  run: (context: Context) => Promise<void>
}

const steps: readonly Step[] = [
  { name: 'centre-register', run: registerCentres },
  { name: 'freeze-cards', run: freezeCards },
  { name: 'open-matters', run: openMattersOfAll },
  { name: 'seal-secrets', run: sealSecrets },
  // Until then the roster was read from the applications themselves.
  { name: 'roster', run: ({ db }) => rewriteStale(productCaller(db, 'upgrade')) },
]

/** Runs the steps that a database has not seen, one process at a time. */
export async function upgradeData(db: Database, tell: (text: string) => void): Promise<void> {
  const context = await productCaller(db, 'upgrade').authorise('clock.act')
  await alone(db, 'upgrade', async () => {
    const known = new Set((await db.select().from(dataUpgrade)).map(row => row.name))
    for (const { name, run } of steps) {
      if (known.has(name)) continue
      const [any] = await db.select({ id: application.id }).from(application).limit(1)
      if (any) tell(`bringing older data to the present shape: ${name}`)
      await run(context)
      await db.insert(dataUpgrade).values({ name, at: context.now() }).onConflictDoNothing()
    }
  })
}

// Until then each notice described its cities; cards and matters, which come after, read the notice with its centres.
async function registerCentres(context: Context): Promise<void> {
  const { db } = context
  for (
    const { document, code } of await db.select({ document: noticeVersion.document, code: cycle.code }).from(cycle).innerJoin(
      noticeVersion,
      and(eq(noticeVersion.cycle, cycle.code), eq(noticeVersion.version, cycle.noticeVersion)),
    ).orderBy(asc(cycle.code))
  ) {
    const { file } = parseNoticeFile(document)
    if (file) await db.transaction(tx => enterCentres(tx, context, code, describedCities(file)))
  }
}

// Cards from before their content was frozen were drawn from notice, answers and seat whenever they were wanted: that is what they say.
async function freezeCards(context: Context): Promise<void> {
  const { db } = context
  for (;;) {
    const page = await db.select().from(admitCard).innerJoin(application, eq(application.id, admitCard.applicationId)).leftJoin(
      seat,
      eq(seat.applicationId, admitCard.applicationId),
    ).where(sql`${admitCard.content} = 'null'::jsonb`).limit(200)
    for (const { admit_card: card, application: row, seat: place } of page) {
      const { notice } = await currentNotice(db, row.cycle)
      const content = place
        ? cardContent(notice, {
          number: row.number,
          answers: countedAnswers(notice, row),
          sittings: [place],
          roll: place.roll,
          version: card.version,
        }, english)
        : {
          // The seat was taken since: the card is void, and only its code tells what it said.
          body: notice.body.name,
          address: notice.body.address,
          examination: notice.title,
          title: notice.card.title,
          name: row.displayName,
          application: row.number,
          roll: '',
          version: card.version,
          person: [],
          sitting: [],
          instructions: [],
        }
      await db.update(admitCard).set({ content }).where(eq(admitCard.id, card.id))
    }
    if (page.length < 200) return
  }
}

async function openMattersOfAll(context: Context): Promise<void> {
  const { db } = context
  for (let after = '';;) {
    const page = await db.select().from(application).where(and(gt(application.number, after))).orderBy(asc(application.number)).limit(200)
    await db.transaction(async (tx) => {
      for (const row of page) await settleMatters(tx, context, row, (await currentNotice(tx, row.cycle)).notice)
    })
    after = page.at(-1)?.number ?? after
    if (page.length < 200) return
  }
}

// Until then keys that sign and secrets of second factors lay in clear.
async function sealSecrets({ db }: Context): Promise<void> {
  await sealKeysAnew(db)
  await sealFactorsAnew(db)
}
