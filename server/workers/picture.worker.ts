import type { FaceDescriber } from '../../core/imaging/detector'
import { openFaceDescriber, openFaceDetector } from '../../pictures/faces'
import { inspectorWith } from '../../pictures/inspect'
import { ProblemError } from '../../shared/problem'
import type { PictureAnswer, PictureQuestion } from './picture-processes'

/** The other side of `PictureProcesses`: decodes and measures one file after another. */
const opened = openFaceDetector().then((detect) => {
  let describer: Promise<FaceDescriber> | null = null
  return inspectorWith(detect, () => describer ??= openFaceDescriber())
})
process.on('message', async ({ id, bytes, slot }: PictureQuestion) => {
  const answer = await opened.then(inspect => inspect(bytes, slot)).then((inspection): PictureAnswer => ({ id, inspection })).catch(
    (error: unknown): PictureAnswer => ({
      id,
      problem: error instanceof ProblemError ? error.problem : null,
      message: error instanceof Error ? error.message : 'unknown',
    })
  )
  process.send?.(answer)
})
// Without the server there is nobody to look for.
process.on('disconnect', () => process.exit())
