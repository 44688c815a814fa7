import { simpleParser } from 'mailparser'

/** What a mail that came back says of one letter. */
export interface Bounce {
  /** The letter by its id. */
  letter: string
  /** Whether it will not arrive any more; false for one that is late or was passed on. */
  isFailed: boolean
  /** Why, as an enhanced status code (RFC 3463), such as 5.1.1; empty where it is not said. */
  status: string
}

const id = '[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}'

/**
 * Reads a delivery status notification (RFC 3464), as mail servers send them to whoever a letter came from. The letter is known by the
 * envelope's id that was handed over with it, or by the Message-ID of the mail that is sent back.
 *
 * @returns null for every other mail, such as answers of people and of letters that are not ours.
 */
export async function readBounce(mail: Buffer): Promise<Bounce | null> {
  const { attachments } = await simpleParser(mail, {
    keepDeliveryStatus: true,
    skipHtmlToText: true,
    skipTextToHtml: true,
    skipImageLinks: true,
  })
  const parts = (types: string[]) =>
    attachments.filter(({ contentType }) => types.includes(contentType)).map(({ content }) => content.toString())
  const [report] = parts(['message/delivery-status'])
  if (report === undefined) return null
  // Fields of the letter first, then those of each recipient, parted by empty lines; a line that begins with a blank goes on with the last.
  const [ofLetter = '', ...ofRecipients] = report.replace(/\r?\n[ \t]+/g, ' ').trim().split(/(?:\r?\n){2,}/)
  const letter = new RegExp(`^original-envelope-id:\\s*(${id})\\s*$`, 'im').exec(ofLetter)?.[1]
    ?? parts(['message/rfc822', 'text/rfc822-headers']).map(sent => new RegExp(`^message-id:\\s*<(${id})@`, 'im').exec(sent)?.[1])
      .find(Boolean)
  if (!letter) return null
  const failed = ofRecipients.find(fields => /^action:\s*failed\b/im.test(fields))
  return {
    letter: letter.toLowerCase(),
    isFailed: failed !== undefined,
    status: /^status:\s*(\d\.\d{1,3}\.\d{1,3})/im.exec(failed ?? ofRecipients[0] ?? '')?.[1] ?? '',
  }
}
