import { z } from 'zod'
import type { CardBlocker } from '../core/admit-card/content'
import type { Allocation } from '../core/allocation/allocation'
import type { Outcome } from '../core/allocation/outcome'
import { policyKinds, type AllocationPolicy } from '../core/allocation/policy'
import type { Why } from '../core/allocation/why'
import type { RefusalReason } from '../core/refusal/codes'

const count = z.int().min(0).max(10_000_000)
export const sessionSeatsSchema = z.object({ city: z.string().max(60), session: z.string().max(60), seats: count, accessibleSeats: count })
/** Seats of one city in one session. */
export type SessionSeats = z.infer<typeof sessionSeatsSchema>

/** Whom a run places: those who have no seat yet, or everyone, with those told before weighed by the policy. */
export const runScopes = ['waiting', 'everyone'] as const
export type RunScope = typeof runScopes[number]

/** How a run is asked for. What is left out is as the notice says. */
export const runRequestSchema = z.object({
  policy: z.object({
    kind: z.enum(policyKinds),
    seed: z.int().min(0),
    choiceCosts: z.array(z.int().min(0)).min(1).max(20),
    offListBase: z.int().min(0),
    kilometreCap: z.int().min(0),
    unseated: z.int().min(0),
    staying: z.int().min(0),
  }).partial().default({}),
  scope: z.enum(runScopes).default('waiting'),
  /** Seats to count on instead of those of the venues, for the cities and sessions named. */
  seats: z.array(sessionSeatsSchema).max(20_000).default([]),
  note: z.string().trim().max(200).default(''),
})
export type RunRequest = z.infer<typeof runRequestSchema>

export interface RunRow {
  id: string
  cycle: string
  serial: number
  policy: AllocationPolicy
  scope: RunScope
  note: string
  cost: number
  bound: number
  standing: Allocation['standing']
  summary: Outcome
  by: string
  at: string
  publishedAt: string | null
  publishedBy: string | null
  inputsSha256: string
  tookMilliseconds: number
}

/** What more seats in a city would save, computed by placing everyone anew. */
export interface Saving {
  city: string
  seats: number
  saves: number
  fromOffList: number
}

export interface RunDetail extends RunRow {
  seats: SessionSeats[]
  savings: Saving[]
  /** Titles of the notice's restrictions that the run held to. */
  restrictions: string[]
  /**
   * Seats that the run kept for some: those that their people have in the city, on kept seats or others, and what was opened to all as
   * nobody of theirs took it.
   */
  kept: { title: string, unseated: number, cities: { city: string, kept: number, opened: number, had: number }[] }[]
  /** Seats the run counts on and no room has, by city and session: they must be found before it can be published. */
  missing: { city: string, session: string, seats: number, accessibleSeats: number }[]
  /**
   * In cycles with test papers: who sits what, by titles; of each paper the sessions in which they sit it, and the seats that are kept for
   * them.
   */
  sittings: { papers: string[], sessions: string[], kept: string[], placed: number, unseated: number }[]
  /** How many people who were told a city before would be moved. */
  moves: number
  /** The date of the notice before which no seats are published, while it is ahead. */
  early: RefusalReason | null
}

export interface RunPerson {
  applicationId: string
  number: string
  name: string
  city: string | null
  choice: number | null
  km: number | null
  cost: number
  choices: string[]
  home: string
  needs: boolean
  told: string | null
  locked: boolean
  place: number | null
  /** In cycles with test papers: the part of the run, and the session of each of its papers, by id. */
  part: number | null
  sessions: string[] | null
}

/** Which people of a run: of one city, of one place on the list, moved, or found by number or name. */
export const runPeopleSchema = z.object({
  city: z.string().max(60).optional(),
  choice: z.coerce.number().int().min(1).max(20).optional(),
  kind: z.enum(['off list', 'no seat', 'moved', 'locked']).optional(),
  search: z.string().trim().max(80).optional(),
  after: z.string().max(40).optional(),
  limit: z.coerce.number().int().min(1).max(500).default(100),
})
export type RunPeopleQuery = z.infer<typeof runPeopleSchema>
export interface RunPeople {
  people: RunPerson[]
  next: string | null
}

/** Whether the card of a genuine code is in force; of a void one since when, where that is known. */
export interface CardStanding {
  state: 'in force' | 'withheld' | 'void' | 'not genuine'
  since: string | null
}

/** Long work as a screen sees it. `result` depends on the kind. */
export interface JobView {
  id: string
  kind: string
  state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled'
  done: number
  total: number
  result: Record<string, string | number> | null
  error: string | null
  by: string
  createdAt: string
  updatedAt: string
}

export interface WhyView {
  person: RunPerson
  why: Why
  words: string[]
  serial: number
}

/** How two runs differ for the people of both, by the costs of the first. */
export interface Comparison {
  first: RunRow
  second: RunRow
  all: ComparedGroup
  groups: { by: 'category' | 'pwd' | 'gender' | 'island', rows: ComparedGroup[] }[]
  onlyFirst: number
  onlySecond: number
}

export interface ComparedGroup {
  group: string
  people: number
  gain: number
  lose: number
  same: number
  /** Points over all people, first less second: above zero the second run is better. */
  pointsGained: number
  pointsLost: number
  firstChoice: [number, number]
  offList: [number, number]
  unseated: [number, number]
  /** Mean distance from home to the city, in km, in each run. */
  km: [number, number]
}

export interface ComparedPerson {
  applicationId: string
  number: string
  name: string
  first: { city: string | null, choice: number | null, km: number | null }
  second: { city: string | null, choice: number | null, km: number | null }
  points: number
}

/** Demand against seats while applications still come in. */
export interface DemandView {
  at: string
  closes: string
  applications: number
  byDay: { day: string, submitted: number }[]
  cities: CityDemand[]
  forecast: { low: number, middle: number, high: number, days: number } | null
}

export interface CityDemand {
  city: string
  seats: number
  accessibleSeats: number
  firstChoice: number
  anyChoice: number
  /** The day on which first choices came to more than the seats; null while they do not. */
  shortSince: string | null
  forecastFirst: { low: number, middle: number, high: number } | null
}

/** Which venue's cards are wanted in one file. */
export const centreCardsSchema = z.object({ venue: z.string().min(1).max(80) })
export type CentreCardsQuery = z.infer<typeof centreCardsSchema>

export interface CardsOverview {
  /** Venues that cards in force are for, to be printed together. */
  venues: { id: string, title: string, city: string }[]
  issued: number
  ready: number
  /** The date of the notice before which no cards go out, while it is ahead. */
  early: RefusalReason | null
  withheld: {
    applicationId: string,
    number: string,
    name: string,
    blockers: CardBlocker[],
    /** Why somebody withholds it by hand. */
    held: string | null,
    /** Letters of the name that cannot be printed, as `ᚠ (U+16A0)`. */
    letters: string[],
  }[]
  newest: { applicationId: string, number: string, name: string, roll: string, city: string, version: number, at: string }[]
}

/** Somebody whom an officer placed by hand. */
export interface HandPlacement {
  applicationId: string
  number: string
  name: string
  city: string
  reason: string
  by: string
  at: string
}
export const handPlacementSchema = z.object({
  city: z.string().min(1).max(60),
  reason: z.string().trim().min(5, 'say why, in five letters or more').max(400),
})
export const savingsRequestSchema = z.object({ cities: z.array(z.string().max(60)).min(1).max(50), seats: z.int().min(1).max(100_000) })

/** A run that was only tried: what it would give now. */
export interface TrialView {
  outcome: Outcome
  cost: number
  bound: number
  standing: RunRow['standing']
  at: string
}

/** How many have a city as their first choice, as far as forms have been begun, and its seats in all sessions. */
export interface CityFullness {
  city: string
  seats: number
  first: number
}
