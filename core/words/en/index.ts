import { joinWords } from '../join'
import { candidateWords } from './candidates'
import { officeWords } from './office'

/** All words in English. */
export const english = joinWords(candidateWords, officeWords)
