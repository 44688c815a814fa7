import sharp from 'sharp'
import type { Random } from '../demo/random'
import { openPdfReaderFrom } from '../pictures/documents'
import { documentOf, mm } from '../server/paper/document'

/** Pages of many kinds and scripts, made up to try by which signs a page is told to lie upright. */
export const pageKinds = ['text', 'two columns', 'table', 'figures', 'form', 'short line', 'like lines', 'capitals', 'stamps',
  'handwriting'] as const
export type PageKind = typeof pageKinds[number]

/** Words of several scripts, common ones, from memory; what they say together means nothing. */
const words = {
  latin:
    'the of and a to in is was that for it with as his on be at by this had not are but from or have an they which one you were her all she there would their we him been has when who will more no if out so said what up its about into than them can only other new some could time these two may then do first any my now such like our over man me even most made after also did many before must through back years where much your way well down should because each just those people take day good how long little state very still own see men work life get here between both being under never same another know while last might us great old year off come since against go came right used three Zertifikat Prüfung Geburtsdatum Größe jeweils Behörde señor niño año también certificado élève reçu délivré naissance',
  cyrillic:
    'и в не на я быть он с что а по это она этот к но они мы весь который из у то за свой что год от так о для ты же все тот мочь вы человек такой его сказать только или ещё бы себя один как уже до время если сам когда другой вот говорить наш мой знать стать при чтобы дело жизнь кто первый очень два день её новый рука даже во со раз где там под можно ну какой после их работа без самый потом надо хотеть ли слово идти большой должен место иметь ничего Свидетельство Справка Фамилия Дата рождения Оценка',
  greek:
    'και το να του η της με που την από για είναι στην τα στο οι δεν στη θα μια τις των ένα τον σε αυτό όπως αλλά ότι κατά μετά πολύ χρόνια ημέρα όνομα επώνυμο γέννηση πιστοποιητικό σχολείο βαθμός εξετάσεις Αθήνα Υπουργείο Παιδείας ώρα τόπος φύλο πατέρας μητέρα διεύθυνση αριθμός ψηφία γλώσσα ζωή ξένος',
  devanagari:
    'के है में की से को और का यह पर ने भी एक हैं कि कर हो नहीं तो ही या इस लिए था जो वह अपने साथ तक कुछ अब जब दिन समय नाम जन्म तिथि प्रमाण पत्र विद्यालय परीक्षा अंक विषय गणित हिन्दी विज्ञान कक्षा जिला राज्य पिता माता पता संख्या वर्ष उत्तीर्ण श्रेणी अधिकारी हस्ताक्षर क्रमांक विश्वविद्यालय निवास जाति',
  arabic:
    'في من على إلى أن هذا التي الذي كان عن مع هذه قد ما لا كل بعد أو بين ذلك غير عند حتى ثم يوم اسم تاريخ الميلاد شهادة مدرسة امتحان رقم العنوان المدينة الوزارة التعليم الطالب الدرجة المادة الرياضيات العلوم اللغة العربية السنة الدراسية ناجح توقيع الختم المدير الجامعة كلية قسم السيد',
  bengali:
    'এবং এই যে করে থেকে তার একটি হয় না কি জন্য সঙ্গে নাম জন্ম তারিখ পরীক্ষা বিদ্যালয় নম্বর বিষয় গণিত বাংলা ইংরেজি পিতা মাতা ঠিকানা জেলা বছর শ্রেণী প্রমাণপত্র সরকার বিভাগ শিক্ষা ছাত্র',
  hebrew:
    'של את על לא הוא עם זה כי גם היא אל או כל אני מה אם יש כמו רק אבל היה לפני אחר שם תאריך לידה תעודה בית ספר מבחן מספר כתובת עיר משרד החינוך תלמיד ציון מקצוע שנה חתימה אב אם',
  tamil:
    'மற்றும் ஒரு இந்த என்று அவர் பெயர் பிறந்த தேதி சான்றிதழ் பள்ளி தேர்வு எண் மதிப்பெண் பாடம் கணிதம் தமிழ் ஆங்கிலம் தந்தை தாய் முகவரி மாவட்டம் ஆண்டு வகுப்பு அரசு துறை கல்வி மாணவர்',
  thai:
    'และ ของ ใน การ เป็น ที่ มี ไม่ ได้ จะ ให้ ชื่อ วันเกิด ใบรับรอง โรงเรียน สอบ เลขที่ คะแนน วิชา คณิตศาสตร์ ภาษาไทย บิดา มารดา ที่อยู่ จังหวัด ปี ชั้น รัฐบาล กระทรวง ศึกษา นักเรียน',
} as const
export type Script = keyof typeof words
/** A file of a font, or the name of one that each reader of PDFs has. */
export interface Face {
  script: Script
  font: string
  isFixed?: boolean
}

const vocabulary = Object.fromEntries(Object.entries(words).map(([script, text]) => [script, text.split(' ')])) as Record<Script, string[]>

/** A page of a kind as a PDF, of A4. */
export function drawMadePage(random: Random, kind: PageKind, { script, font, isFixed }: Face): Promise<Buffer> {
  const word = () => random.pick(vocabulary[script])
  const line = (count: number) => Array.from({ length: count }, () => random.chance(0.06) ? `${random.whole(1, 9999)}` : word()).join(' ')
  const figure = () => random.chance(0.5) ? `${random.whole(10, 99)}` : `${random.whole(100, 999)}.${random.whole(10, 99)}`
  const size = random.between(8.5, 13)
  const step = size * random.between(1.15, 1.8)
  return documentOf({ title: 'Page', author: 'Nobody', at: new Date('2026-05-04T08:00:00Z') }, (doc) => {
    const write = (text: string, x: number, y: number, points = size) =>
      doc.font(font).fontSize(points).text(text, x, y, { lineBreak: false })
    const lines = (count: number, top: number, left: number, each: () => string) => {
      for (let i = 0; i < count; i += 1) write(each(), left, top + i * step)
    }
    const room = (top: number) => Math.max(4, Math.min(random.whole(14, 46), Math.floor((mm(282) - top) / step)))
    doc.fillColor('#111111')
    if (kind !== 'short line' && random.chance(0.5)) write(line(3), mm(25), mm(14), size * 1.6)
    const top = mm(random.between(26, 60))
    if (kind === 'text' || kind === 'stamps') lines(room(top), top, mm(22), () => line(random.whole(6, 9)))
    if (kind === 'capitals') lines(room(top), top, mm(22), () => line(5).toUpperCase())
    if (kind === 'two columns') [20, 110].forEach(left => lines(room(top), top, mm(left), () => line(random.whole(3, 5))))
    if (kind === 'short line') {
      write(line(random.whole(3, 6)), mm(random.between(20, 90)), mm(random.between(20, 250)), size * random.between(1, 1.6))
    }
    if (kind === 'like lines') {
      const text = line(random.whole(5, 8))
      lines(room(top), top, mm(22), () => text)
    }
    if (kind === 'table' || kind === 'figures') {
      const columns = random.whole(4, 7)
      const [width, rows] = [mm(170) / columns, Math.min(room(top), 30)]
      for (let row = 0; row < rows; row += 1) {
        if (isFixed && kind === 'table') {
          write(
            `${`${row + 1}`.padStart(2)} ${word().slice(0, 9).padEnd(10)}${
              Array.from({ length: columns }, () => `${random.whole(20, 99)}`.padStart(6)).join('')
            }  ${word().slice(0, 6)}`,
            mm(20),
            top + row * step,
          )
        } else {
          for (let c = 0; c < columns; c += 1) {
            write(kind === 'figures' || c > 1 ? figure() : word(), mm(20) + c * width, top + row * step)
          }
        }
      }
      if (random.chance(0.5)) {
        for (let row = 0; row <= rows; row += 1) {
          doc.moveTo(mm(18), top + (row - 0.15) * step).lineTo(mm(192), top + (row - 0.15) * step).lineWidth(0.6).stroke('#333333')
        }
      }
      if (random.chance(0.3)) {
        for (let c = 0; c <= columns; c += 1) {
          doc.moveTo(mm(18) + c * width, top).lineTo(mm(18) + c * width, top + rows * step).lineWidth(0.6).stroke('#333333')
        }
      }
    }
    if (kind === 'form') {
      for (let row = 0; row < random.whole(8, 16); row += 1) {
        const y = top + row * mm(12)
        write(line(2), mm(20), y)
        doc.rect(mm(70), y - mm(1.5), mm(110), mm(8)).lineWidth(0.7).stroke('#444444')
        if (random.chance(0.8)) write(line(random.whole(1, 4)), mm(73), y)
      }
    }
    if (kind === 'stamps') {
      for (let i = 0; i < 3; i += 1) {
        const [x, y] = [mm(random.between(40, 160)), mm(random.between(60, 240))]
        doc.save().rotate(random.between(-40, 40), { origin: [x, y] }).circle(x, y, mm(16)).lineWidth(1.5).stroke('#7a2230')
        doc.fillColor('#7a2230')
        write(line(2), x - mm(12), y - size / 2, size)
        doc.restore().fillColor('#111111')
      }
    }
    if (kind === 'handwriting') {
      lines(random.whole(6, 12), top, mm(22), () => line(random.whole(6, 9)))
      for (let row = 0; row < random.whole(3, 7); row += 1) drawStrokes(doc, random, mm(25), mm(170) + row * mm(11))
    }
  })
}

/** Lines as of a hand: loops that lean and run on, in words. */
function drawStrokes(doc: PDFKit.PDFDocument, random: Random, left: number, base: number): void {
  let x = left
  while (x < mm(170)) {
    doc.moveTo(x, base)
    for (let i = 0; i < random.whole(3, 8); i += 1) {
      const [rise, width] = [random.chance(0.25) ? -mm(6) : random.chance(0.15) ? mm(3) : -mm(2.6), mm(random.between(1.5, 3))]
      doc.bezierCurveTo(x + width * 0.2, base + rise, x + width * 0.9, base + rise, x + width, base)
      x += width
    }
    doc.lineWidth(1.1).stroke('#1b2a6b')
    x += mm(random.between(3, 6))
  }
}

/** A page as a scanner or a telephone takes it: turned by quarters, leaning a little, grainy, not quite sharp. JPEG. */
export async function takeMadePage(random: Random, pdf: Uint8Array, turn: number): Promise<Buffer> {
  const read = await (reader ??= openPdfReaderFrom())
  const dots = random.between(100, 210)
  const { width, height, data } = read(
    pdf,
    ({ page }) => page(0, ({ width: w, height: h, draw }) => draw(Math.round(Math.max(w, h) / 72 * dots))),
  )
  const pale = random.between(0.6, 0.97)
  const made = new Uint8Array(data.length)
  for (let i = 0; i < data.length; i += 3) {
    const grain = (random.next() + random.next() - 1) * 9
    for (let c = 0; c < 3; c += 1) made[i + c] = Math.max(0, Math.min(255, 245 - (255 - (data[i + c] ?? 0)) * pale + grain))
  }
  const leaning = await sharp(made, { raw: { width, height, channels: 3 } }).blur(random.between(0.3, 1.1)).rotate(
    random.between(-2.5, 2.5),
    { background: '#f4f3ef' },
  ).raw().toBuffer({ resolveWithObject: true })
  return sharp(leaning.data, { raw: { width: leaning.info.width, height: leaning.info.height, channels: 3 } }).rotate(turn).jpeg({
    quality: random.whole(70, 92),
  }).toBuffer()
}
let reader: ReturnType<typeof openPdfReaderFrom> | null = null
