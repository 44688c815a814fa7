import type { Notice } from '../notice/schema'

/** The question that asks for the number of an identity paper: the one that the notice names, else `identityNumber`. */
export const identityQuestion = (notice: Pick<Notice, 'scrutiny'>): string => notice.scrutiny?.identityQuestion ?? 'identityNumber'
