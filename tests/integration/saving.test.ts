import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Principal } from '../../core/access/principal'
import { textAnswer, type Answers } from '../../core/application/answers'
import { Saving, type SheetChanges, type SheetConflict } from '../../core/application/saving'
import { answerChange } from '../../server/database/schema'
import { saveAnswers } from '../../server/services/applications/answers'
import { readDossier } from '../../server/services/applications/dossier'
import { ProblemError } from '../../shared/problem'
import { openOffice, type Office } from '../support/office'

/** The page's side of saving, as it runs in browsers, against the office's, over a line that loses what it is given. */
let office: Office
let me: Principal
beforeAll(async () => {
  office = await openOffice()
  me = await office.candidate()
})
afterAll(() => office.close())

const questions = ['address', 'certificateName', 'identityName'] as const
type Step =
  | { do: 'type', question: typeof questions[number], text: string }
  | { do: 'send', fate: 'arrives' | 'lost' | 'answer lost' | 'twice' }
  | { do: 'old request arrives' | 'reload' | 'refresh' }
  | { do: 'officer types', text: string }
const step: fc.Arbitrary<Step> = fc.oneof(
  {
    weight: 5,
    arbitrary: fc.record({
      do: fc.constant('type' as const),
      question: fc.constantFrom(...questions),
      text: fc.stringMatching(/^[a-z]{0,4}$/),
    }),
  },
  {
    weight: 5,
    arbitrary: fc.record({ do: fc.constant('send' as const), fate: fc.constantFrom('arrives', 'lost', 'answer lost', 'twice') }),
  },
  { weight: 2, arbitrary: fc.record({ do: fc.constantFrom('old request arrives', 'reload', 'refresh') }) },
  { weight: 1, arbitrary: fc.record({ do: fc.constant('officer types' as const), text: fc.stringMatching(/^[0-9]{5}$/) }) },
)

class Page {
  saving = new Saving()
  readonly sent: SheetChanges[] = []
  readonly typed: Answers = {}
  constructor(readonly id: string) {}

  async open(): Promise<void> {
    const kept = this.saving.toKeep()
    this.saving = new Saving()
    this.saving.show(await readDossier(office.by(me), this.id))
    if (kept !== null) this.saving.recover(kept)
  }

  async send(fate: 'arrives' | 'lost' | 'answer lost' | 'twice'): Promise<void> {
    const sent = this.saving.next()
    if (!sent) return
    this.sent.push(structuredClone(sent))
    if (fate === 'lost') return this.saving.unanswered()
    try {
      if (fate === 'twice') await saveAnswers(office.by(me), this.id, sent)
      const saved = await saveAnswers(office.by(me), this.id, sent)
      if (fate === 'answer lost') this.saving.unanswered()
      else this.saving.saved(saved)
    } catch (error) {
      if (!(error instanceof ProblemError) || error.problem.code !== 'sheet.conflict') throw error
      if (fate === 'answer lost') this.saving.unanswered()
      else this.saving.clashed(error.problem.data as SheetConflict)
    }
  }

  async take(one: Step): Promise<void> {
    if (one.do === 'type') {
      this.saving.change(one.question, one.text)
      this.typed[one.question] = one.text
    } else if (one.do === 'send') await this.send(one.fate)
    else if (one.do === 'reload') await this.open()
    else if (one.do === 'refresh') this.saving.show(await readDossier(office.by(me), this.id))
    else if (one.do === 'officer types') {
      const { revision } = await office.dossier(this.id)
      await saveAnswers(office.as(), this.id, { revision, changes: { postalCode: one.text } }, { reason: 'By telephone' })
    } else {
      const old = this.sent[0]
      if (old) await saveAnswers(office.by(me), this.id, old).catch(() => undefined)
    }
  }
}

describe('what is typed over a line that loses requests and answers', () => {
  it('ends as it was typed last, is never held against its own writer, and takes along what others have written', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 4, maxLength: 24 }), async (steps) => {
        const page = new Page(await office.begin(me))
        await page.open()
        for (const one of steps) {
          await page.take(one)
          // Nobody else has written to the same question: there is nothing to choose.
          expect(page.saving.conflict).toBeNull()
        }
        for (let turn = 0; turn < 3 && !page.saving.isWhole; turn += 1) await page.send('arrives')
        expect([page.saving.isWhole, page.saving.state === 'saved' || page.sent.length === 0]).toEqual([true, true])
        const { answers } = await office.dossier(page.id)
        for (const [question, text] of Object.entries(page.typed)) expect(textAnswer(answers, question)).toBe(text)
        await page.open()
        expect(page.saving.toKeep()).toBeNull()
        expect(page.saving.answers).toEqual(answers)
      }),
      { numRuns: 60 },
    )
    const rows = await office.db.select().from(answerChange)
    // No value is written twice in a row: a repeat is no change.
    expect(rows.filter(one => JSON.stringify(one.before ?? '') === JSON.stringify(one.after))).toEqual([])
  }, 120_000)

  it('asks who has typed where somebody else has written to the same question, with both writings', async () => {
    const page = new Page(await office.begin(me))
    await page.open()
    await page.take({ do: 'type', question: 'address', text: 'Quay 4' })
    await page.take({ do: 'send', fate: 'answer lost' })
    await page.take({ do: 'type', question: 'address', text: 'Quay 44' })
    const { revision } = await office.dossier(page.id)
    await saveAnswers(office.as(), page.id, { revision, changes: { address: 'Pier 9' } }, { reason: 'By telephone' })
    await page.take({ do: 'reload' })
    await page.take({ do: 'send', fate: 'arrives' })
    expect(page.saving.conflict).toMatchObject([{ question: 'address', theirs: 'Pier 9', yours: 'Quay 44' }])
    page.saving.settle(new Set(['address']))
    await page.take({ do: 'send', fate: 'arrives' })
    expect((await office.dossier(page.id)).answers.address).toBe('Quay 44')
  })
})
