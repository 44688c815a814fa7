import type { LogFault } from '../../records/sealed-log'

/** What is wrong with a sealed log, and where it shows first. Places count from 0. */
export function logFaultWords(fault: LogFault): string {
  switch (fault.code) {
    case 'head-unsigned':
      return `The head of ${fault.size} rows is signed by none of the keys. It was forged, or its key is missing.`
    case 'row-missing':
      return `Row ${fault.place} is not there: it was taken away, or rows were put in or moved.`
    case 'personal-changed':
      return `Row ${fault.place}: what it says (reason, before or after) is not what was sealed.`
    case 'row-changed':
      return `Row ${fault.place}: who, what, when or to whom is not what was sealed.`
    case 'head-differs':
      return `Rows ${fault.from} to ${
        fault.size - 1
      }: among them one was changed, taken away or put in, and sealed anew; the head of ${fault.size} rows, signed before, does not fit them any more.`
    case 'rows-too-few':
      return `There are ${fault.rows} rows; a signed head covers ${fault.size}. The last ones were taken away.`
    case 'dated-back':
      return `Row ${fault.place} says that it happened long before the rows sealed ahead of it: it was put in later than it says.`
    case 'erased-unasked':
      return `Row ${fault.place}: what it said of a person is gone, and nobody had released it or its cycle for erasing.`
    case 'not-sealed':
      return `The row with the number ${fault.place} stands below sealed ones and was never sealed: it was put in by another way than the product's.`
  }
}
