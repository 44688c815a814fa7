import { spellDate, spellInstant } from '../../calendar/zone'
import { spellAmount } from '../../fees/assess'
import { stepsOf, type NoticeFinding, type NoticeFindingCode } from '../../notice/finding'
import type { Notice } from '../../notice/schema'
import { formatMessage } from '../message'
import { capital, partTitle } from './notice-parts'

/** What a finding of a notice says, in ICU message syntax: the value, the bound and what to do. */
const messages: Record<NoticeFindingCode, string> = {
  'format.newer':
    'The notice is of format {format}, which is newer than {known}, the newest that this program knows. Save it in format {known}, or bring the program up to date.',
  'shape.missing': 'Is missing. Give it a value.',
  'shape.kind':
    'Holds {found, select, string {a text} number {a number} array {a list} object {parts} boolean {yes or no} other {nothing}}; it must hold {wanted, select, string {a text} number {a number} int {a whole number} array {a list} object {parts} boolean {yes or no} record {parts} other {another kind of value}}.',
  'shape.unknown-part': '“{part}” is no part of a notice here. Take it out, or check how it is spelled.',
  'shape.too-small':
    '{of, select, string {Has fewer than {bound, plural, one {# character} other {# characters}}.} array {Needs at least {bound, plural, one {# entry} other {# entries}}.} other {Is below {bound}, the least that is allowed.}}',
  'shape.too-large':
    '{of, select, string {Has more than {bound, plural, one {# character} other {# characters}}.} array {Has more than {bound, plural, one {# entry} other {# entries}}.} other {Is above {bound}, the most that is allowed.}}',
  'shape.choice': '“{value}” is none of those that can stand here: {values}.',
  'shape.form': 'Does not have the form that is wanted here.',
  'shape.id': '“{value}” cannot be an id: use small letters, digits and hyphens, beginning with a letter.',
  'shape.question-id': '“{value}” cannot be the id of a question: use letters and digits, beginning with a small letter.',
  'shape.date': '“{value}” is no day of the calendar; give one as year-month-day, such as 2027-03-31.',
  'shape.time': '“{value}” is no time of day; give one as 09:45.',
  'shape.instant': '“{value}” is no moment; give day, time and distance from UTC, such as 2027-03-31T17:00:00-01:15.',
  'shape.number-or-day': '“{value}” is neither a number, such as 60 or 44.50, nor a day, such as 2027-07-31.',
  'shape.decimal': '“{value}” is no decimal number; give one such as 60 or 44.50.',
  'shape.cycle-code': '“{value}” cannot be the code of a cycle: use two capital letters and two digits.',
  'shape.currency-code': '“{value}” cannot be the code of a currency: use three capital letters.',
  'shape.colour': '“{value}” is no colour: use # and six hexadecimal digits.',
  'shape.digits': '“{value}” must consist of digits.',
  'shape.condition-bound': 'A comparison needs values, a least or a most.',
  'shape.age-bound': 'A rule of age needs a least or most number of years, or a first or last day of birth.',
  'shape.age-upper': 'Most years and a first day of birth bound the same end. Keep one of them.',
  'shape.age-lowered': 'There is no least age to lower. Give least years, or a last day of birth.',
  'shape.age-lower': 'Least years and a last day of birth bound the same end. Keep one of them.',
  'shape.qualification-one': 'A rule of qualification needs either the least rung or a list of rungs, not both.',
  'shape.day-bound': 'A rule of a day needs the first or the last day that fits.',
  'shape.number-bound': 'A rule of a number needs a least or a most.',
  'shape.board-named': 'A board counts either named subjects or the best ones, not both.',
  'shape.board-compulsory': 'More subjects are compulsory than are counted.',
  'shape.board-points': 'Grades in points need the scale of points.',
  'shape.grade-one': 'A grade stands for either a percentage or points: give exactly one.',
  'shape.claim-effect': 'A claim found false must change at least one answer.',
  'id.twice': '“{id}” stands here twice. Give one of them another id.',
  'term.signed-first':
    '“{title}” is accepted before the form has asked for a name, so nobody can sign it by one. Have it ticked, or asked at the end.',
  'id.taken': '“{id}” is the id of something else: an image, a document, a question or a post.',
  'fact.missing': 'No question “{question}” is asked. The rest of the work reads it by this id; add a question of kind {kind}.',
  'fact.day': 'The rest of the work reads a day from “{question}”; a month is not enough.',
  'fact.kind': 'The question “{question}” is of kind {found}; the rest of the work reads a {wanted} from it.',
  'fact.option': '“{value}” is offered, which the notice does not know here: {known}.',
  'fact.column': 'The table “{question}” has no column “{column}”, which marks are read from.',
  'condition.question': 'Looks at the question “{question}”, which does not exist.',
  'condition.later': 'Looks at the question “{question}”, which is not asked before it. Move the question up, or look at another.',
  'condition.number': 'Compares “{question}” with a number or a day; its kind is {kind}, which gives none of that sort.',
  'condition.table': 'Looks into the table “{question}”, which a condition cannot do.',
  'condition.option': '“{value}” is not an option of the question “{question}”.',
  'question.never': 'Nobody would ever be asked “{title}”: its condition can hold for no one.',
  'question.same-as': '“{other}” is no earlier question of the same kind, so its answer cannot be taken over here.',
  'number.example':
    'The example “{example}” {fault, select, shape {is not written as “{shape}” says} other {has a check digit that does not agree}}.',
  'document.never': '“{title}” is wanted of nobody: its condition can hold for no one.',
  'quiet.whole-day': 'The hours without messages begin and end at {at}: that is the whole day.',
  'payer.never': '“{title}” pays for nobody: the condition can hold for no one.',
  'waiver.both': '“{one}” and “{other}” can both fit one person, and only one waiver may: part their conditions, or say which counts.',
  'relaxation.never': 'The relaxation “{title}” eases the bound for nobody: its condition can hold for no one.',
  'waiver.never': 'The waiver “{title}” is for nobody: its condition can hold for no one.',
  'surcharge.never': 'The surcharge “{title}” is for nobody: its condition can hold for no one.',
  'image.faces': 'Faces cannot be compared without a rule for the face.',
  'image.no-face': '{title} shows no face that could be compared.',
  'bounds.empty': 'At least {min} and at most {max}: nothing is both.',
  'bounds.door-bytes': '{value} bytes are more than the {bound} that are taken at the door.',
  'bounds.door-pages': '{value} pages are more than the {bound} that are taken at the door.',
  'bounds.aspect':
    'Width to height from {min} to {max} does not go together with the bounds of width and height, which give {narrowest} to {widest}.',
  'dates.order': '{later} ({after}) comes before {earlier} ({before}).',
  'dates.cards': 'Cards go out ({cards}) before the last moment to pay ({payment}): a card could go to somebody who has not paid.',
  'dates.correction-late': 'Corrections close ({corrections}) after cards go out ({cards}): what a card says could still change.',
  'dates.offset': '{value} is written with another distance from UTC than {zone} has. Check whether the moment is meant.',
  'dates.holiday': '{date} is a day on which the office is closed: nobody could help on the last day.',
  'dates.short': 'The form is open for {days, plural, one {# day} other {# days}}; the notice itself wants at least {bound}.',
  'dates.late-fee': 'The late fee begins {from}, outside the time in which applications are open ({opens} to {closes}).',
  'claim.lead': 'The proof of “{title}” may take {days, plural, one {# day} other {# days}}; the form is open for {open}.',
  'session.times': '{title}: reporting {reporting}, gate closes {gateCloses}, start {starts} and end {ends} must follow each other.',
  'session.cards': '{title} is on {date}, before cards go out ({cards}).',
  'session.overlap': '{title} and {other} overlap on {date}: the same rooms would be given twice.',
  'dates.paid-late':
    'The fee is paid before the form is handed in, so that the last payment ({payment}) after the close ({closes}) is of no use to anybody but those whom an officer lets in later.',
  'fee.hole': '{category}: no fee holds for somebody who answers: {person}. Add a row, or widen one.',
  'fee.overlap': '{category}: two base fees, {one} and {other}, hold for somebody who answers: {person}. Narrow one of them.',
  'fee.category': '“{category}” is not a category of the notice.',
  'city.empty': '{city} has no venue with a room. Add one to the register, or take the city out.',
  'letter.twice': 'This letter is there twice: only the first would go out.',
  'letter.braces': 'The letter does not know “{word}”. What it can name: {known}, each in braces.',
  'letter.long': 'To a telephone this goes as {messages} messages: about {units} signs, where one message holds {most}.',
  'language.tag': '“{tag}” is no tag of a language. Take one of BCP 47, such as fr or pt-BR.',
  'language.twice': '{tag} is there already, or is the language of the notice itself.',
  'language.missing':
    '{tag} lacks {missing, plural, one {# text} other {# texts}} of {all}, which people read as they were written; the first is “{first}”.',
  'language.unknown': '{tag}: “{text}” stands nowhere in the notice. It was changed, perhaps: translate what stands there now.',
  'language.braces': '{tag}: words in braces differ. The text has {wanted}, its translation {there}.',
  'language.numbers': '{tag}: numbers differ. The text has {wanted}, its translation {there}.',
  'text.placeholder': '“{word}” stands for nothing, and people would read the braces. What can be put so: {known}.',
  'zone.unknown':
    '“{name}” is no zone of the time zone database. Zones there are named by area and place, such as Atlantic/Azores; leave it empty where clocks are never set.',
  'session.no-hour': '{title}: on {date} clocks in {zone} are set forward, and no clock shows {time}. Take another hour.',
  'session.hour-twice': '{title}: on {date} clocks in {zone} are set back, and show {time} twice. People will ask which one is meant.',
  'city.no-seats': '{city} has no seat in any session: its rooms are lost or closed. Add a room to the register, or take the city out.',
  'room.unusable': '{room} has {seats} seats, so there is no seat {seat} that nobody can sit on. Take the number out.',
  'room.accessible': '{room} has {accessible} step-free seats of {seats} in all.',
  'seats.few': '{seats, number} seats stand against {expected, number} expected applicants.',
  'seats.step-free': '{seats, number} step-free seats stand against {expected, number} that are expected to be needed.',
  'allocation.city': '“{title}” closes {city}, which is not among the cities.',
  'kept.city': 'Seats are kept in {city} (“{title}”), which is not among the cities.',
  'kept.many':
    '“{title}” keeps {kept, number} seats of each session in {city}. With what is kept before, that makes {all, number}, and a session has {seats, number}. Keep fewer, or add rooms.',
  'kept.never': '“{title}” keeps seats for nobody: the condition can hold for no one.',
  'allocation.policy': 'The costs of the allocation do not work: {fault}.',
  'allocation.costs': '{costs, plural, one {# cost is} other {# costs are}} given for up to {choices} choices. Give one for each.',
  'rule.percentage': 'The least percentage {value} is above 100.',
  'rule.relaxation-answer': 'The relaxation “{title}” takes a number from the question “{question}”, which gives none.',
  'rule.relaxation-years': 'The relaxation “{title}” is {value}; years of age need a whole number below 100.',
  'rule.relaxation-cap': 'The relaxation “{title}” gives {value}, but all together are capped at {cap}.',
  'rule.lowered': '“{title}” lowers the least age by {value} years, and it is {least}. Lower it by fewer.',
  'rule.bounds': 'The least, {min}, is above the most, {max}.',
  'rule.born': 'Born not before {from} and not after {to} fits nobody.',
  'rule.question': 'Reads the question “{question}”, which does not exist.',
  'rule.subjects-least': 'Wants {value} of {wanted} subjects.',
  'rule.no-number': 'The question “{question}” is of kind {kind} and gives no number.',
  'rule.no-table': 'The question “{question}” is no table of periods.',
  'rule.no-day': 'A day is wanted of “{question}”, which is no question for one.',
  'rule.no-column': 'The table “{question}” has no column “{column}”.',
  'rule.no-date': 'The table “{question}” has no column “{column}” that asks for a day.',
  'member.unknown':
    '“{value}” is not {of, select, qualifications {a rung of the ladder} disciplines {one of the disciplines} subjects {one of the subjects} cities {a city of the register, nor is it described here} other {known here}}.',
  'rung.equals': 'Counts as “{value}”, which is no rung of its own.',
  'post.nobody':
    '{several, select, yes {Nobody can meet the clauses {clause} of {post} together.} other {Nobody can meet clause {clause} of {post}.}} Every answer that its rules can tell apart was tried.',
  'post.unseen': 'No example of somebody who may enter {post} was found in the time given. Look whether its clauses go together.',
  'posts.least': 'At least {min} posts have to be chosen; there {posts, plural, one {is #} other {are #}}.',
  'posts.groups': 'The groups want at least {wanted} posts of everybody together; at most {max} may be chosen.',
  'posts.load': 'What the groups want of everybody counts for at least {load}; at most {max} is allowed.',
  'posts.most': 'Up to {max} posts may be chosen; there {posts, plural, one {is #} other {are #}}.',
  'dates.post-early': 'The post opens {opens}, before the opening of all, {all}.',
  'dates.post-late': 'The post closes {closes}, after the close of all, {all}.',
  'test-papers.none': '{post} has no test paper. As soon as the notice has test papers, each post needs one of them.',
  'test-papers.unused': 'No post wants the test paper {paper}: nobody sits it.',
  'test-papers.collide': 'Nobody can sit all test papers of {post}: {papers} are held at the same time.',
  'test-papers.forced': 'At least {min} of these have to be chosen, and no {min} of them can be sat by one person: their sessions collide.',
  'request.overlap':
    'With “{title}” {session} lasts until {ends} for some; {next} reports at {reporting}. Keep rooms apart, or move a session.',
  'text.number': 'The text of clause {clause} says {value}, which its rule does not use.',
  'text.silent': 'The rule of clause {clause} uses {value}, which its text does not say.',
}

/** One finding in words, dates and amounts as the notice has them. */
export function noticeFindingWords(
  { body, sections }: Pick<Notice, 'body' | 'sections'>,
  { code, parameters, person }: NoticeFinding,
): string {
  const spelled = Object.fromEntries(Object.entries(parameters).map(([name, value]) => {
    if (name === 'earlier' || name === 'later') return [name, capital(partTitle(String(value)))]
    if (code === 'fee.overlap' && typeof value === 'number') return [name, spellAmount(value, body.currency)]
    if (name !== 'value' && typeof value === 'string' && /^\d{4}-\d\d-\d\dT/.test(value)) return [name, spellInstant(value, body.zone)]
    return [name, name !== 'value' && typeof value === 'string' && /^\d{4}-\d\d-\d\d$/.test(value) ? spellDate(value) : value]
  }))
  return formatMessage('en', messages[code], { value: '', ...spelled, person: person ? personWords(sections, person) : '' })
}

/** Answers of somebody in words: "Category: General; Gender: Man". */
export function personWords(sections: Notice['sections'], person: Readonly<Record<string, unknown>>): string {
  return sections.flatMap(s => s.questions).flatMap((question) => {
    const answer = person[question.id]
    if (answer === undefined || answer === '' || (Array.isArray(answer) && answer.length === 0)) return []
    const titles = (Array.isArray(answer) ? answer : [answer]).map((one: unknown) =>
      typeof one === 'object' && one !== null
        ? Object.values(one).join(' ')
        : question.kind === 'choice'
        ? question.options.find(o => o.id === one)?.title ?? String(one)
        : String(one)
    )
    return [`${question.label}: ${titles.length > 3 ? `${titles.slice(0, 3).join(', ')}…` : titles.join(', ')}`]
  }).join('; ')
}

/** Where a pointer leads in a document, in words: "Posts › Pilot cadet › Clauses › 4.1". */
export function placeWords(document: unknown, at: string): string {
  const names: string[] = []
  let value: unknown = document
  for (const step of stepsOf(at)) {
    const isMember = Array.isArray(value)
    value = typeof value === 'object' && value !== null && Object.hasOwn(value, step) ? (value as Record<string, unknown>)[step] : undefined
    names.push(isMember ? memberTitle(value) ?? String(Number(step) + 1) : capital(partTitle(step)))
  }
  return names.join(' › ')
}

/** What people know a member of a list by. */
export function memberTitle(member: unknown): string | null {
  if (typeof member !== 'object' || member === null) return null
  const known = member as Record<string, unknown>
  return [known.title, known.label, known.clause, known.category, known.grade, known.id].find((text): text is string =>
    typeof text === 'string' && text !== ''
  ) ?? null
}
