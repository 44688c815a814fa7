import fc from 'fast-check'
import { expect, it } from 'vitest'
import { z } from 'zod'
import { isEmail } from './email'

it('takes the addresses that the package for bodies of requests takes, and no others', () => {
  const same = (text: string) => {
    expect([text, isEmail(text)]).toEqual([text, z.email().safeParse(text).success])
  }
  for (
    const text of ['a@b.co', 'tavi.osk@post.example', "o'neill@x-y.example", 'a+b@c.example', '', '@', 'a@', '@b.example', 'a@b',
      'a..b@c.example', '.a@c.example', 'a.@c.example', 'a b@c.example', 'a@-c.example', 'a@c..example', 'ä@c.example', 'a@c.example ',
      'a@b@c.example']
  ) same(text)
  const near = fc.string({ unit: fc.constantFrom('a', 'b', '1', '.', '-', '_', '+', '@', "'", ' ', 'é'), maxLength: 14 })
  fc.assert(fc.property(fc.oneof(fc.emailAddress(), near, fc.tuple(near, near).map(([a, b]) => `${a}@${b}.example`)), same), {
    numRuns: 2000,
  })
})
