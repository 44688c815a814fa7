import { imageKindsOf } from '../image-rules'
import { found, pointer, type NoticeFinding } from '../finding'
import type { Notice } from '../schema'

/** Rules of corrections that name nothing of the notice, or a time that is none. */
export function correctionFindings(notice: Notice): NoticeFinding[] {
  const known = new Set<string>([...notice.sections.flatMap(s => s.questions).map(q => q.id), ...imageKindsOf(notice),
    ...notice.documents.map(d => d.id)])
  const { correctionOpens, correctionCloses } = notice.keyDates
  return notice.corrections.flatMap((rule, i) => {
    const at = (...steps: (string | number)[]) => pointer('corrections', i, ...steps)
    const findings = rule.items.flatMap((item, k) =>
      known.has(item) ? [] : [found('member.unknown', at('items', k), { value: item, of: 'items' })]
    )
    if (notice.corrections.findIndex(one => one.id === rule.id) < i) findings.push(found('id.twice', at('id'), { id: rule.id }))
    const [opens, closes] = [rule.opens ?? correctionOpens, rule.closes ?? correctionCloses]
    if (Date.parse(closes) <= Date.parse(opens)) {
      findings.push(found('dates.order', at(rule.closes ? 'closes' : 'opens'), {
        earlier: 'correctionOpens',
        later: 'correctionCloses',
        before: opens,
        after: closes,
      }))
    }
    return findings
  })
}
