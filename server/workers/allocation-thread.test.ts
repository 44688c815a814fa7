import { describe, expect, it } from 'vitest'
import { hard, makeInstance } from '../../bench/allocation-instances'
import { Cancelled } from '../../core/allocation/allocate'
import { instanceOf, policy } from '../../tests/support/instances'
import { solveHere } from '../services/centres/solver'
import { solveInThread } from './allocation-thread'

const instance = instanceOf(makeInstance({ people: 60_000, cities: 40, ...hard }, 4))

describe('the thread of the allocation', () => {
  it('finds what this thread finds, while this one goes on', async () => {
    let turns = 0
    const timer = setInterval(() => {
      turns += 1
    }, 5)
    const there = await solveInThread(instance, policy)
    clearInterval(timer)
    expect(turns).toBeGreaterThan(5)
    const here = await solveHere(instance, policy)
    expect(there).toEqual(here)
  })

  it('does not begin when it is told to stop before', async () => {
    await expect(solveInThread(instance, policy, () => false)).rejects.toBeInstanceOf(Cancelled)
  })

  it('ends when it is told to stop on the way, however late', async () => {
    let asked = 0
    await expect(solveInThread(instance, policy, () => (asked += 1) < 2)).rejects.toBeInstanceOf(Cancelled)
    expect(asked).toBe(2)
  })

  it('passes on what went wrong in it', async () => {
    await expect(solveInThread(instance, { ...policy, offListBase: 1 })).rejects.toThrow('below the last choice')
  })
})
