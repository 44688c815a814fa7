import type { Finding } from '../../finding/finding'
import type { ImageWords } from './images'

const p = (f: Finding, name: string) => String(f.parameters[name] ?? '')

/** What is found in a row of a nominal roll besides what the sheet itself finds. */
export const rollWords: Record<string, ImageWords> = {
  'roll.no-key': () => ({ title: 'Nothing says who this is', advice: 'Write the sender\'s number, or name and date of birth.' }),
  'roll.long': f => ({ title: `The row has ${p(f, 'cells')} cells, the heading ${p(f, 'columns')}`, advice: 'A sign that parts cells stands inside one. Put that cell into quotation marks.' }),
  'roll.signs': f => ({ title: `${p(f, 'label')} has signs that cannot be read: “${p(f, 'written')}”`, advice: 'Type it anew, or choose another character set for the file.' }),
  'roll.no-date': f => ({ title: `${p(f, 'label')}: “${p(f, 'written')}” is no day`, advice: 'Write day, month and year with four digits, such as 29 Feb 2004.' }),
  'roll.two-dates': f => ({ title: `${p(f, 'label')}: “${p(f, 'written')}” is ${p(f, 'first')} or ${p(f, 'second')}`, advice: 'Say for the whole roll whether the day or the month stands first.' }),
  'roll.no-option': f => ({ title: `${p(f, 'label')}: “${p(f, 'written')}” is not one of the notice's`, advice: `One of: ${p(f, 'options')}.` }),
  'roll.shortened': f => ({ title: `${p(f, 'label')}: a spreadsheet has shortened the number to “${p(f, 'written')}”`, advice: 'Its last digits are lost. Format the column as text and type it anew.' }),
  'roll.post-shut': f => ({ title: `${p(f, 'post')} is not open to this person: ${p(f, 'clauses')}`, advice: 'Leave it out, or mend the facts.' }),
  'roll.twice': f => ({ title: `The same person stands in row ${p(f, 'row')}`, advice: 'Leave one of the two out.' }),
  'roll.frozen': f => ({ title: `${p(f, 'number')} was handed in already and cannot be changed by a roll`, advice: 'What is to be corrected goes through the office.' }),
  'roll.changed-since': f => ({ title: `${p(f, 'number')} was worked on since the last roll`, advice: 'A roll does not write over that. Change it in the application.' }),
}
