import { rowsAnswer, textAnswer, type Answers, type LiveAnswers, type Row } from '../application/answers'
import { ageOn, dayNumber, type Age, type CalendarDate } from '../calendar/calendar-date'
import { qualifyingResult, type MarksResult } from '../marks/result'
import type { Notice } from '../notice/schema'

/** The facts of one live sheet, each computed once, however many clauses of however many posts ask for it. */
export class Facts {
  // Nearly all sheets need one date and one table or none: maps for each would cost more than they save.
  #rows: { question: string, rows: Row[] } | undefined
  #age: { on: CalendarDate, age: Age | null } | undefined
  #result: MarksResult | undefined
  #bornDay: number | undefined

  readonly answers: Answers

  constructor(readonly notice: Notice, readonly live: LiveAnswers) {
    this.answers = live.answers
  }

  text(question: string): string {
    return textAnswer(this.answers, question)
  }

  /** Age on a date; null when the day of birth is missing, is no day, or lies after the date. */
  age(on: CalendarDate): Age | null {
    if (this.#age?.on !== on) this.#age = { on, age: ageOn(this.text('bornOn'), on, this.notice.leapDayBirthday) }
    return this.#age.age
  }

  /** The rows of a table, as `rowsAnswer` gives them. */
  rows(question: string): Row[] {
    if (this.#rows?.question !== question) {
      this.#rows = { question, rows: this.live.closed.has(question) ? [] : rowsAnswer(this.answers, question) }
    }
    return this.#rows.rows
  }

  /** The day number of the day of birth; NaN when it is no day. */
  get bornDay(): number {
    return this.#bornDay ??= dayNumber(this.text('bornOn'))
  }

  /** The percentage of the qualifying examination with its working, or what keeps it from being found. */
  result(): MarksResult {
    return this.#result ??= qualifyingResult(this.notice, this.answers)
  }
}
