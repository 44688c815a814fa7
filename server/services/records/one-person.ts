import { carryOut, type Carried } from '../acts/carry-out'
import type { Given } from '../acts/given'
import type { Caller } from '../context'

/**
 * What one application tells of its person, erased on their asking before its cycle's time: released by two people, as an act on the
 * application, and carried out with the released cycles (`erasing`). Until then it can be kept after all.
 */

/** Releases what an application tells of its person for erasing; it is not worked on from then on. */
export const releaseData = (caller: Caller, id: string, given: Given): Promise<Carried<null>> =>
  carryOut(
    caller,
    'release-data',
    id,
    given,
    ({ context }) => Promise.resolve({ result: null, columns: { erasingSince: context.now() } }),
  )

/** Takes the release back, while nothing is erased. */
export const keepData = (caller: Caller, id: string, given: Given): Promise<Carried<null>> =>
  carryOut(
    caller,
    'keep-data',
    id,
    given,
    () => Promise.resolve({ result: null, columns: { erasingSince: null } }),
  )
