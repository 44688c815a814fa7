import type { Finding } from '../../finding/finding'
import { oneOf } from './lists'

export type FindingTeller = (f: Finding) => { title: string, advice?: string, value?: string, bound?: string }

export const p = (f: Finding, name: string) => String(f.parameters[name] ?? '')

/** What the notice allows, as alternatives. */
export const allowed = (f: Finding) => oneOf(p(f, 'allowed').split(', '))

export const below = (f: Finding) => f.value !== null && f.bound?.min !== undefined && f.value < f.bound.min

export const whenNot = (f: Finding, advice: string) => f.verdict === 'pass' ? '' : advice

/** An angle by its size and the side it goes to. */
export const lean = (f: Finding, more: string, less: string) =>
  f.value === null ? '' : f.value === 0 ? '0°' : `${Math.abs(f.value)}° ${f.value > 0 ? more : less}`
