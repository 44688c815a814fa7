import { parentPort } from 'node:worker_threads'
import { openFaceDetector } from '../../pictures/faces'
import { inspectorWith } from '../../pictures/inspect'
import { ProblemError } from '../../shared/problem'
import type { PictureAnswer, PictureQuestion } from './picture-threads'

/** The other thread of `inspectInThreads`: decodes and measures one picture after another. */
const opened = openFaceDetector().then(inspectorWith)
parentPort?.on('message', async ({ id, bytes, kind, rule }: PictureQuestion) => {
  const answer = await (await opened)(bytes, kind, rule).then((inspection): PictureAnswer => ({ id, inspection })).catch((error: unknown): PictureAnswer => ({
    id, problem: error instanceof ProblemError ? error.problem : null, message: error instanceof Error ? error.message : 'unknown',
  }))
  parentPort?.postMessage(answer)
})
