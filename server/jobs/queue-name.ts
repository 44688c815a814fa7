/** Name of the one queue. */
export const workQueue = 'work'
