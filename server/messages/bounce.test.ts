import { randomUUID } from 'node:crypto'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readBounce } from './bounce'

const own = randomUUID()
const report = (ofLetter: string[], ofRecipients: string[][], sent: string[] = [], type = 'message/rfc822') =>
  Buffer.from([
    'From: Mail Delivery Subsystem <MAILER-DAEMON@cs.example>',
    'Message-ID: <199407072116.RAA14128@cs.example>',
    'To: <exams@board.example>',
    'MIME-Version: 1.0',
    'Content-Type: multipart/report; report-type=delivery-status;',
    '      boundary="RAA14128.773615765/CS.EXAMPLE"',
    '',
    '--RAA14128.773615765/CS.EXAMPLE',
    '',
    'The following addresses had delivery problems',
    '--RAA14128.773615765/CS.EXAMPLE',
    'content-type: message/delivery-status',
    '',
    ...ofLetter,
    ...ofRecipients.flatMap(fields => ['', ...fields]),
    '',
    '--RAA14128.773615765/CS.EXAMPLE',
    `content-type: ${type}`,
    '',
    ...sent,
    '--RAA14128.773615765/CS.EXAMPLE--',
  ].join('\r\n'))
// The fields of RFC 3464's examples in its appendix E (simple, several recipients, delayed), from memory, with other names.
const mta = 'Reporting-MTA: dns; cs.example'
const failed = ['Original-Recipient: rfc822;louisl@larry.example', 'Final-Recipient: rfc822;louisl@larry.example', 'Action: failed',
  'Status: 4.0.0', 'Diagnostic-Code: smtp; 426 connection timed out', 'Last-Attempt-Date: Thu, 7 Jul 1994 17:15:49 -0400']
const delayed = ['Final-Recipient: rfc822;louisl@larry.example', 'Action: delayed', 'Status: 4.4.1',
  'Will-Retry-Until: Thu, 7 Jul 1994 17:15:49 -0400']
const relayed = ['Final-Recipient: rfc822;arathib@vnet.example', 'Action: relayed', 'Status: 2.1.9']

describe('a mail that came back', () => {
  it('names the letter by the id of its envelope, and says that it failed for good, as RFC 3464 has it', async () => {
    expect(await readBounce(report([`Original-Envelope-Id: ${own}`, mta], [failed]))).toEqual({
      letter: own,
      isFailed: true,
      status: '4.0.0',
    })
    expect(await readBounce(report([mta, `original-envelope-id:   ${own.toUpperCase()}  `], [relayed, failed]))).toEqual({
      letter: own,
      isFailed: true,
      status: '4.0.0',
    })
  })

  it('is known by the mail that is sent back where its server knows no ids of envelopes', async () => {
    for (const type of ['message/rfc822', 'text/rfc822-headers']) {
      const sent = ['Received: by cs.example', `Message-ID: <${own}@board.example>`, 'Subject: x', '', 'body']
      expect(await readBounce(report([mta], [failed], sent, type))).toEqual({ letter: own, isFailed: true, status: '4.0.0' })
    }
    // A line goes on with the next that begins with a blank.
    const folded = ['Final-Recipient: rfc822;a@b.example', 'Action:', '  failed (no such person)', 'Status:', '\t5.1.1 (bad address)']
    expect(await readBounce(report([`Original-Envelope-Id:\r\n ${own}`, mta], [folded]))).toEqual({
      letter: own,
      isFailed: true,
      status: '5.1.1',
    })
  })

  it('is not taken for one where it is late or passed on, is no report, or is of a letter of others', async () => {
    expect(await readBounce(report([`Original-Envelope-Id: ${own}`, mta], [delayed]))).toEqual({
      letter: own,
      isFailed: false,
      status: '4.4.1',
    })
    expect((await readBounce(report([`Original-Envelope-Id: ${own}`, mta], [relayed])))?.isFailed).toBe(false)
    expect(await readBounce(report(['Original-Envelope-Id: 1994-x', mta], [failed], ['Message-ID: <abc@post.example>']))).toBeNull()
    // Somebody who quotes a report in an answer sends none.
    const answer = `From: a@b.example\r\nSubject: Re: x\r\n\r\nAction: failed\r\nOriginal-Envelope-Id: ${own}\r\n`
    expect(await readBounce(Buffer.from(answer))).toBeNull()
  })

  it('is read to an end whatever it holds', async () => {
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 400 }), fc.nat({ max: 900 }), async (noise, at) => {
        const whole = report([`Original-Envelope-Id: ${own}`, mta], [failed])
        const read = await readBounce(Buffer.concat([whole.subarray(0, at), Buffer.from(noise), whole.subarray(at)]))
        expect(read === null || /^[0-9a-f-]{36}$/.test(read.letter)).toBe(true)
      }),
      { numRuns: 60 },
    )
  })
})
