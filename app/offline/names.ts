/** The stores of a browser: parts of pages, public pages as they were last read, and what is one's own. */
export const shellKept = 'lucid-shell'
export const pagesKept = 'lucid-pages'
export const ownKept = 'lucid-own'
