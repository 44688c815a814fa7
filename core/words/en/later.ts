import './file-findings'
import './file-refusals'
import { coach } from './screens/coach'
import { correction } from './screens/correction'
import { documents } from './screens/documents'
import { endorse } from './screens/endorse'
import { parts } from './screens/parts'
import { paying } from './screens/paying'
import { standing } from './screens/standing'

/**
 * What candidates' pages say in parts that come after the page stands, or once somebody has pressed something: whoever does not need them
 * need not wait for their words.
 */
export const laterWords = { screens: { coach, correction, documents, endorse, parts, paying, standing } }
