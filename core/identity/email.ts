/**
 * An e-mail address as forms take it: a part that may stand without quotation marks, and a name of the domain system (RFC 5321, section
 * 4.1.2, without quoted parts and addresses in figures). The same as that of the package by which bodies of requests are checked; a test
 * compares both.
 */
const pattern = /^(?!\.)(?!.*\.\.)([A-Za-z0-9_'+\-.]*)[A-Za-z0-9_+-]@([A-Za-z0-9][A-Za-z0-9-]*\.)+[A-Za-z]{2,}$/

export const isEmail = (text: string): boolean => pattern.test(text)
