import type { AllocationPolicy } from '../core/allocation/problem'

export interface RunRow {
  id: string, serial: number, cost: number, bound: number, certified: boolean
  summary: {
    candidates: number, byChoice: number[], offList: number, unseated: number
    cities: { city: string, capacity: number, firstChoice: number, placed: number, price: number }[]
  }
  by: string, at: string, publishedAt: string | null, publishedBy: string | null, inputsSha256: string
}

export interface RunDetail extends RunRow {
  policy: AllocationPolicy
  people: { applicationId: string, number: string, name: string, city: string | null, choice: number | null, cost: number, choices: string[] }[]
}

/** Long work as a screen sees it. `result` depends on the kind. */
export interface JobView {
  id: string, kind: 'allocate' | 'issue-cards' | 'review', state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled'
  done: number, total: number, result: Record<string, string | number> | null, error: string | null, by: string, createdAt: string
}

export interface CardsOverview {
  issued: number, ready: number
  withheld: { applicationId: string, number: string, name: string, blockers: string[] }[]
  newest: { applicationId: string, number: string, name: string, roll: string, city: string, version: number, at: string }[]
}
