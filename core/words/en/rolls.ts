import type { Finding } from '../../finding/finding'
import { findingWords } from './form-findings'
import type { FindingTeller } from './of-findings'

const p = (f: Finding, name: string) => String(f.parameters[name] ?? '')

/** What is found in a row of a nominal roll besides what the sheet itself finds. */
const rollWords: Record<string, FindingTeller> = {
  'roll.no-key': () => ({ title: 'Nothing says who this is', advice: "Write the sender's number, or name and date of birth." }),
  'roll.long': f => ({
    title: `The row has ${p(f, 'cells')} cells, the heading ${p(f, 'columns')}`,
    advice: 'A sign that parts cells stands inside one. Put that cell into quotation marks.',
  }),
  'roll.signs': f => ({
    title: `${p(f, 'label')} has signs that cannot be read: “${p(f, 'written')}”`,
    advice: 'Type it anew, or choose another character set for the file.',
  }),
  'roll.no-date': f => ({
    title: `${p(f, 'label')}: “${p(f, 'written')}” is no day`,
    advice: 'Write day, month and year with four digits, such as 29 Feb 2004.',
  }),
  'roll.no-month': f => ({
    title: `${p(f, 'label')}: “${p(f, 'written')}” is no month`,
    advice: 'Write month and year with four digits, such as Feb 2004 or 02/2004.',
  }),
  'roll.two-dates': f => ({
    title: `${p(f, 'label')}: “${p(f, 'written')}” is ${p(f, 'first')} or ${p(f, 'second')}`,
    advice: 'Say for the whole roll whether the day or the month stands first.',
  }),
  'roll.no-option': f => ({
    title: `${p(f, 'label')}: “${p(f, 'written')}” is not one of the notice's`,
    advice: `One of: ${p(f, 'options')}.`,
  }),
  'roll.shortened': f => ({
    title: `${p(f, 'label')}: a spreadsheet has shortened the number to “${p(f, 'written')}”`,
    advice: 'Its last digits are lost. Format the column as text and type it anew.',
  }),
  'roll.post-shut': f => ({
    title: `${p(f, 'post')} is not open to this person: ${p(f, 'clauses')}`,
    advice: 'Leave it out, or mend the facts.',
  }),
  'roll.twice': f => ({ title: `The same person stands in row ${p(f, 'row')}`, advice: 'Leave one of the two out.' }),
  'roll.file-missing': f => ({
    title: `No file came for: ${p(f, 'slots')}`,
    advice: 'They can follow with another packing, or in the application.',
  }),
  'roll.file-named': f => ({
    title: `${p(f, 'slot')}: no file is called “${p(f, 'written')}”`,
    advice: 'Send it, or mend the name in the roll.',
  }),
  'roll.file-nobody': () => ({
    title: 'Nobody in this roll has this number',
    advice: "Begin the name of the file with the sender's number, or name the file in a column of the roll.",
  }),
  'roll.file-whose': () => ({
    title: 'The name does not say whose it is',
    advice: "Begin it with the sender's number, such as 0042-photograph.jpg.",
  }),
  'roll.file-slot': f => ({
    title: `Of row ${p(f, 'row')}, but the name does not say what it is`,
    advice: 'Put the word into the name or its folder: photograph, signature, or what the notice calls the paper.',
  }),
  'roll.file-several': f => ({
    title: `Rows ${p(f, 'one')} and ${p(f, 'other')} could both mean it`,
    advice: 'Name it in a column of the roll.',
  }),
  'roll.file-twice': f => ({ title: `For row ${p(f, 'row')} ${p(f, 'name')} was taken`, advice: 'Leave one of the two out.' }),
  'roll.file-row': f => ({ title: `Its row ${p(f, 'row')} is refused`, advice: 'It is taken once the row is mended.' }),
  'roll.file-not-taken': f => ({
    title: `The application of row ${p(f, 'row')} takes no files now`,
    advice: 'It was handed in, or the office works on it.',
  }),
  'roll.file-locked': () => ({ title: 'Locked with a password', advice: 'Pack it without one.' }),
  'roll.file-large': f => ({ title: `More than ${p(f, 'most')} MB`, advice: 'Make it smaller.' }),
  'roll.file-kind': () => ({
    title: 'No picture and no PDF',
    advice: 'JPEG, PNG, WebP, HEIC or PDF are taken, where the notice allows them.',
  }),
  'roll.frozen': f => ({
    title: `${p(f, 'number')} was handed in already and cannot be changed by a roll`,
    advice: 'What is to be corrected goes through the office.',
  }),
  'roll.changed-since': f => ({
    title: `${p(f, 'number')} was worked on since the last roll`,
    advice: 'A roll does not write over that. Change it in the application.',
  }),
}

/** What was found in a row or a file of a roll, and what to do: only the office reads it. */
export function rollFindingWords(finding: Finding): { title: string, advice: string } {
  const { title, advice = '' } = rollWords[finding.code]?.(finding) ?? findingWords(finding)
  return { title, advice }
}
