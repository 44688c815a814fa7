/**
 * Admit cards drawn, each a file of its own or all in one: cards a second of CPU, beside copying the bytes of their pictures alone, and the
 * memory of the process over many.
 *
 * `npx tsx bench/cards.ts [cards] [together]`
 */
import { drawPortrait } from '../demo/portraits'
import { Random } from '../demo/random'
import { drawSignature } from '../demo/signatures'
import { pagesOf } from '../server/paper/document'
import { untagged } from '../server/paper/tags'
import { drawCard, printCard, type PrintableCard } from '../server/services/cards/pdf'

const count = Number(process.argv[2] ?? 600)
const isTogether = process.argv[3] === 'together'
const pictures: { photograph: Buffer, signature: Buffer }[] = []
for (let seed = 1; seed <= 12; seed += 1) {
  pictures.push({ photograph: await drawPortrait(new Random(seed), 'none'), signature: await drawSignature(new Random(seed), 'none') })
}
const given = ['Anneliese', 'Bjarki', 'Chandana', 'Đặng', 'Eskil', 'Fjóla', 'Gwenllian', 'Þorgerður', 'Ingunn', 'Jovana']
const family = ['Ekhaven', 'Fjällström', 'Offermann', 'Łukasik', 'Nørgaard', 'Quiroga', 'Reykdal', 'Sætre', 'Vásquez', 'Wiegand']
const code = (random: Random) =>
  Array.from({ length: 300 }, () => '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ $%*+-./:'[random.whole(0, 44)]).join('')

function cardOf(n: number): PrintableCard {
  const random = new Random(n + 1)
  const name = `${random.pick(given)} ${random.pick(given)} ${random.pick(family)}-${random.pick(family)}`
  const picture = pictures[n % pictures.length]
  if (!picture) throw new Error('no picture was drawn')
  return {
    ...picture,
    code: code(random),
    issuedAt: new Date(Date.UTC(2027, 0, 2)),
    content: {
      language: 'en',
      body: 'Ilmara Maritime Examinations Board',
      address: '1 Board House, Lantern Street, Skarnholm 11001, Ilmara',
      examination: 'Harbour and Lighthouse Service Recruitment Test 2027',
      title: 'Admit card',
      name,
      application: `HL27-${String(n).padStart(6, '0')}`,
      roll: `27${String(n).padStart(6, '0')}`,
      version: 1,
      person: [{ label: 'Born', text: `${1 + n % 28} May ${1990 + n % 15}` }, { label: 'Category', text: 'General' }, {
        label: 'Posts',
        text: 'Lighthouse keeper, Harbour pilot assistant',
      }, { label: 'To bring', text: 'Passport ending 4711, the original' }, { label: 'Name on the proof', text: name }],
      sitting: [
        { label: 'Centre', text: 'Sound School' },
        { label: 'Address', text: '12 Sound Street, Skarnholm, Main island' },
        { label: 'Session', text: 'Morning, 7 March 2027' },
        { label: 'Report at', text: '08:30 Ilmara time' },
        { label: 'Gate closes', text: '09:15 Ilmara time' },
        { label: 'Test', text: '09:30 to 12:30' },
        { label: 'Seat', text: `Hall ${1 + n % 4}, seat ${1 + n % 60}` },
      ],
      instructions: ['Bring this card and the original of the proof named above.',
        'Come in time: nobody is let in once the gate has closed.', 'Telephones, watches and bags stay outside the hall.',
        'Write your roll number on every sheet.', 'The code on this card is checked at the gate.'],
    },
  }
}

const cpu = () => process.cpuUsage().user + process.cpuUsage().system
let [bytes, pictureBytes] = [0, 0]
for (let n = 0; n < 30; n += 1) await printCard(cardOf(n))
const began = cpu()

/** The next card, with what was held before it told now and then. */
function next(n: number): PrintableCard {
  const card = cardOf(n)
  pictureBytes += card.photograph.length + card.signature.length
  if (n % Math.max(1, Math.floor(count / 5)) === 0) {
    process.stdout.write(`after ${n} cards ${Math.round(process.memoryUsage().rss / 2 ** 20)} MB\n`)
  }
  return card
}
async function* all(): AsyncGenerator<(doc: PDFKit.PDFDocument) => void> {
  for (let n = 0; n < count; n += 1) {
    const card = next(n)
    yield await Promise.resolve((doc: PDFKit.PDFDocument) => drawCard({ doc, tags: untagged }, card))
  }
}
if (isTogether) { for await (const part of pagesOf({ title: 'Cards', author: 'Board', at: new Date(0) }, all())) bytes += part.length }
else for (let n = 0; n < count; n += 1) bytes += (await printCard(next(n))).length
const seconds = (cpu() - began) / 1e6
const copying = cpu()
for (let n = 0; n < count; n += 1) Buffer.concat([Buffer.from(cardOf(n).photograph), Buffer.from(cardOf(n).signature)])
const copied = (cpu() - copying) / 1e6
process.stdout
  .write(`${count} cards in ${seconds.toFixed(1)} s of CPU: ${(count / seconds).toFixed(1)} a second, ${
    Math.round(bytes / count / 1024)
  } KB each, of which pictures ${Math.round(pictureBytes / count / 1024)} KB; copying their pictures alone ${
    (copied * 1000 / count).toFixed(2)
  } ms each\n`)
