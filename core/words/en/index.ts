import { joinWords } from '../join'
import { candidateWords } from './candidates'
import { laterWords } from './later'
import { officeWords } from './office'

/** All words in English. */
export const english = joinWords(joinWords(candidateWords, laterWords), officeWords)
