import { laterWords } from '~~/core/words/en/later'

// A part of a page that says something of these asks for this file, and is drawn once it is there.
takeWords(laterWords)
