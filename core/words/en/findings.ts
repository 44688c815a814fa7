import './file-findings'

/** Words for every finding that there is. */
export * from './form-findings'
