/**
 * Stands on pages in place of the part of the message parser that reads skeletons of numbers and days (`{n, number, ::percent}`): no
 * message of ours has any, as a test of the words says, and every telephone would fetch it.
 */
function none(): never {
  throw new Error('A message holds a skeleton. Give it the number or day as text instead.')
}
export { none as parseDateTimeSkeleton, none as parseNumberSkeleton, none as parseNumberSkeletonFromString }
