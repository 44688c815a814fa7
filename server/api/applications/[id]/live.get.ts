import { createEventStream, setResponseHeader } from 'h3'
import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { runtime } from '../../../runtime'

/**
 * After how long a stream ends and the browser asks anew, with whatever rights it has then; how often a sign of life goes over the line. In
 * milliseconds.
 */
const longest = 10 * 60_000
const signOfLife = 25_000

/** Tells a page of the last change of an application, now and whenever there is another; what it is then the page asks as always. */
export default route(async ({ event, caller }) => {
  const stream = createEventStream(event)
  const stop = await runtime().live.watch(caller, idParam(event), (at) => {
    void stream.push({ event: 'changed', data: at })
  })
  setResponseHeader(event, 'x-accel-buffering', 'no')
  const life = setInterval(() => {
    void stream.push({ event: 'alive', data: '' })
  }, signOfLife)
  const end = setTimeout(() => {
    void stream.close()
  }, longest)
  stream.onClosed(() => {
    stop()
    clearInterval(life)
    clearTimeout(end)
    return stream.close()
  })
  return stream.send()
})
