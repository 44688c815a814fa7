import { execFileSync } from 'node:child_process'
import { describe, expect, it } from 'vitest'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { drawSignature } from '../../demo/signatures'
import { lettersWithoutFace } from '../../server/paper/typeset'
import { printCard } from '../../server/services/cards/pdf'

/**
 * Cards read back by another program, poppler: their letters, their structure (ISO 14289-1 and ISO 32000-1, section 14.7) and their faces.
 */
const portrait = drawPortrait(new Random(4), 'none')
const written = drawSignature(new Random(4), 'none')
const card = async (name: string) =>
  printCard({
    code: 'HL27 CARD'.repeat(30),
    photograph: await portrait,
    signature: await written,
    issuedAt: new Date('2027-01-02T00:00:00Z'),
    content: {
      language: 'en',
      body: 'Ilmara Maritime Examinations Board',
      address: '1 Board House, Lantern Street',
      examination: 'Recruitment Test 2027',
      title: 'Admit card',
      name,
      application: 'HL27-000123',
      roll: '270001',
      version: 1,
      person: [{ label: 'Born', text: '7 May 2001' }, { label: 'Name on the proof that is to be shown', text: name }],
      sitting: [{ label: 'Centre', text: 'Sound School' }],
      instructions: ['The officers’ office is affable; flags fly at five.', 'Come in time.'],
    },
  })
const read = (pdf: Buffer, tool: string, ...rest: string[]) =>
  execFileSync(tool, [...rest, '-', ...tool === 'pdftotext' ? ['-'] : []], {
    input: pdf,
    encoding: 'utf8',
    stdio: ['pipe', 'pipe', 'ignore'],
  })
// Marks of direction that poppler writes around what runs from right to left are not the text's.
const text = (pdf: Buffer) => read(pdf, 'pdftotext').replaceAll(/[\u200e\u200f\u202a-\u202e\u2066-\u2069]/gu, '').replaceAll(/\s+/gu, ' ')

describe('the names on a card, read by poppler', () => {
  it.each([
    'Þorgerður Fjällström-Offjell Łukasik Đặng Thị Ốc',
    'Ketil Nørvaag नेहा कुमारी श्रीवास्तव',
    'فاطمة الزهراء',
    'שרה לוי',
    '王小明',
    'தமிழ் செல்வி',
    'প্রিয়া চট্টোপাধ্যায়',
    'സുമതി ലക്ഷ്മി',
    'పద్మ',
    'ಲಕ್ಷ್ಮೀ',
    'ગુજરાતી',
    'ਗੁਰਮੀਤ',
    'ශ්‍රී ලංකා',
    'ଓଡ଼ିଆ',
    'สมชาย ใจดี',
    'Ելենա',
    'მარიამ',
    'ሰላም',
    'Ελένη Παπαδοπούλου',
    'Анастасия Ковалёва',
    'សុខា ច័ន្ទបុត្រី',
    'ສົມສະຫງວນ ແສງດາວ',
    'ນ້ຳ',
    'น้ำ ผู้ใหญ่',
    'အောင်ဆန်း မြင့်သူ',
    'مُحَمَّد',
    'علاء الأمين',
    'שָׂרָה',
    'চট্টোপাধ্যায় কৃষ্ণেন্দু',
    'శ్రీనివాస కృష్ణమూర్తి',
    'བསྟན་འཛིན་སྒྲོལ་མ།',
  ])('are what was typed: %s', async (name) => {
    const found = text(await card(name))
    // On the card twice: large, and as it stands on the proof.
    expect(found.split(name).length - 1).toBe(2)
    expect(found).toContain('The officers’ office is affable; flags fly at five.')
  })

  it('with a letter that no face has are told by the letter', () => {
    expect(lettersWithoutFace(['Osk ᚠᚢ', 'ᚠ'])).toEqual(['ᚠ (U+16A0)', 'ᚢ (U+16A2)'])
    expect(lettersWithoutFace(['Ketil नेहा 王 \u200d'])).toEqual([])
  })
})

describe('what a card is, for whoever has it read aloud', () => {
  it('stands in its structure: headings, rows with their labels, a list, pictures in words', async () => {
    const pdf = await card('Ketil Nørvaag')
    expect(read(pdf, 'pdfinfo')).toMatch(/Tagged:\s+yes/)
    const structure = read(pdf, 'pdfinfo', '-struct-text').split('\n').map(line => line.trim().replace(' (block)', '')).filter(line =>
      line !== '' && !line.startsWith('/')
    )
    expect(structure.slice(0, 8)).toEqual(['Document', 'P', '"Ilmara Maritime Examinations Board"', 'P', '"1 Board House, Lantern Street"',
      'H1', '"Admit card"', 'P'])
    const at = structure.indexOf('"Name on the proof that is to be shown"')
    expect(structure.slice(at - 2, at + 3)).toEqual(['TR', 'TH:', '"Name on the proof that is to be shown"', 'TD', '"Ketil Nørvaag"'])
    expect(structure.filter(line => line === 'Figure:')).toHaveLength(3)
    expect(structure.slice(structure.indexOf('L'), structure.indexOf('L') + 6)).toEqual(['L', 'LI', 'Lbl', '"1."', 'LBody',
      '"The officers’ office is affable; flags fly at five."'])
    // Words of a picture with letters beyond ASCII stand in the file as UTF-16BE (ISO 32000-1, section 7.9.2.2).
    expect(pdf.includes(Buffer.from('Photograph of Ketil Nørvaag', 'utf16le').swap16())).toBe(true)
  })

  it('has every face in the file, with the letters of its glyphs, and is the same file again', async () => {
    const pdf = await card('Ketil नेहा 王')
    const faces = read(pdf, 'pdffonts').trim().split('\n').slice(2)
    expect(faces.map(line => line.split('+')[1]?.split(' ')[0]).sort()).toEqual(['NotoSansDevanagari-Medium', 'NotoSansSC-Medium',
      'SourceSans3-Regular', 'SourceSans3-SemiBold', 'SourceSerif4-SemiBold'])
    for (const line of faces) expect(line).toMatch(/Identity-H\s+yes yes yes/)
    expect((await card('Ketil नेहा 王')).equals(pdf)).toBe(true)
  })
})
