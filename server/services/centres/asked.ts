import type { RunScope } from '../../../shared/centres'

/** Somebody whom an officer placed by hand; takes a seat before anyone is placed. */
export interface Locked {
  number: string
  home: string
  choices: string[]
  needs: boolean
  turn: number
  told: string | null
  held: number
  /** Bit i where the notice keeps its seats i for them. */
  kept: number
  city: string
  /** In cycles with test papers: among the kinds of the sittings, and the sessions that were found. */
  kind: number | null
  sessions: string[] | null
}

/** `applied` is no scope of a run: it asks what a run would give everyone who has applied so far, had scrutiny accepted all. */
export type InputScope = RunScope | 'applied'
