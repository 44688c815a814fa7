import { documentWords } from './documents'
import { knowFindings } from './form-findings'
import { imageWords } from './images'

// Findings on pictures and documents are told where there is a file: a form that is begun has none yet.
knowFindings({ ...documentWords, ...imageWords })
