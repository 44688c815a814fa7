import type { Verdict } from '../../../core/finding/finding'
import type { ImageView } from '../../../shared/applications'
import type { Caller } from '../context'

/** Findings on which browser and office disagree, by code: the same core measured the same bytes, so each is worth a look. */
export function differingVerdicts(
  office: ImageView['findings'],
  browser: Record<string, Verdict>,
): { code: string, browser: Verdict, office: Verdict }[] {
  return office.flatMap(({ code, verdict }) => {
    const seen = browser[code]
    return seen !== undefined && seen !== verdict ? [{ code, browser: seen, office: verdict }] : []
  })
}

/** Writes to the log where the browser's verdicts on a picture differ from the office's. */
export function tellDifference(caller: Caller, view: ImageView, browser: Record<string, Verdict>): void {
  const differing = differingVerdicts(view.findings, browser)
  if (differing.length > 0) {
    console.warn(JSON.stringify({
      level: 'warn',
      requestId: caller.requestId,
      what: 'browser and office measured differently',
      image: view.id,
      differing,
    }))
  }
}
