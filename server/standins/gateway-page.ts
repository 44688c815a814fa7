import { createSSRApp, h, type VNode } from 'vue'
import { renderToString } from 'vue/server-renderer'
import { spellAmount } from '../../core/fees/assess'
import type { MessageParameters } from '../../core/words/message'
import { english } from '../../core/words/en'
import { screenText } from '../../core/words/screen-text'
import type { standinGatewayOrder } from '../database/schema'
import { gatewayActs, gatewayMethods, type GatewayMethod } from './gateway-acts'

/** The pages of the simulated gateway: plain, and unlike those of the office, as a company's elsewhere would be. */
type Order = typeof standinGatewayOrder.$inferSelect

const look =
  `body{font:17px/1.45 system-ui,sans-serif;margin:0;background:#eceff3;color:#17202b}main{max-width:640px;margin:0 auto;padding:20px 16px 48px}
.strip{background:#17202b;color:#fff;padding:12px 16px}.strip b{max-width:640px;margin:0 auto;display:block}.paper{background:#fff;border:1px solid #c6ced8;border-radius:10px;padding:18px 20px;margin-top:16px}
h1{font-size:30px;margin:0}p{margin:6px 0}.soft{color:#4d5a69}.left{font-variant-numeric:tabular-nums;font-weight:600}fieldset{border:0;padding:0;margin:18px 0 0}legend{font-weight:600;padding:0;margin-bottom:4px}
label{display:grid;grid-template-columns:24px minmax(0,1fr);gap:8px;padding:7px 0;border-top:1px solid #e3e8ee;align-items:start}label span span{display:block;color:#4d5a69;font-size:15px}input[type=radio]{margin:5px 0 0;width:18px;height:18px}
input[type=text]{font:inherit;font-size:24px;letter-spacing:.2em;width:6em;padding:6px 10px;border:1px solid #73808f;border-radius:6px}button{font:inherit;font-weight:600;padding:11px 22px;border:0;border-radius:8px;background:#1b4f9c;color:#fff;margin-top:18px;cursor:pointer}
button.small{padding:4px 12px;margin:0;background:#fff;color:#1b4f9c;border:1px solid #1b4f9c}.bad{color:#a11d1d}.good{color:#14683a}table{border-collapse:collapse;width:100%;font-size:15px}td,th{text-align:left;padding:6px 8px 6px 0;border-bottom:1px solid #e3e8ee;vertical-align:top}a{color:#1b4f9c}
@media(prefers-color-scheme:dark){body{background:#10161d;color:#e6ebf1}.paper{background:#1a232d;border-color:#36424f}.soft,label span span{color:#a5b1be}label,td,th{border-color:#2b3641}a{color:#8db6f2}button.small{background:none;color:#8db6f2;border-color:#8db6f2}input[type=text]{background:#10161d;color:inherit}.bad{color:#ff9c94}.good{color:#83d6a5}}`
// Only shows the time; whether it is over, the server says.
const countdown =
  'const e=document.querySelector("[data-ends]");if(e){const t=()=>{const s=Math.max(0,Math.round((Date.parse(e.dataset.ends)-Date.now())/1000));e.textContent=Math.floor(s/60)+":"+String(s%60).padStart(2,"0");if(s===0)location.reload();else setTimeout(t,1000)};t()}'

const say = (key: Parameters<typeof screenText>[1], parameters: MessageParameters = {}) => screenText(english, key, parameters)
const amountOf = ({ amount, currency }: Pick<Order, 'amount' | 'currency'>) => spellAmount(amount, { code: currency, exponent: 2 })

async function draw(nonce: string, title: string, body: VNode[]): Promise<string> {
  const inner = await renderToString(createSSRApp({
    render:
      () => [h('div', { class: 'strip' }, [h('b', say('gateway.simulatedPaymentGateway'))]),
        h('main', [h('p', { class: 'soft' }, say('gateway.aSimulatedGatewayThatShipsWith')), ...body])],
  }))
  const head = await renderToString(createSSRApp({ render: () => [h('title', title)] }))
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">${head}<style nonce="${nonce}">${look}</style></head><body>${inner}<script nonce="${nonce}">${countdown}</script></body></html>`
}

const heading = (order: Order, isOpen: boolean): VNode[] => [
  h('h1', amountOf(order)),
  h('p', { class: 'soft' }, say('gateway.forWhat', { description: order.description, id: order.id })),
  ...isOpen && order.endsAt
    ? [h('p', [say('gateway.timeLeft'), ' ', h('span', { 'class': 'left', 'data-ends': order.endsAt.toISOString() }, '')])]
    : [],
]

function choice(name: string, value: string, title: string, help: string, isFirst: boolean): VNode {
  return h('label', [h('input', { type: 'radio', name, value, checked: isFirst || undefined }),
    h('span', [title, ...help ? [h('span', help)] : []])])
}

const methodTitles: Record<GatewayMethod, () => string> = {
  'card': () => say('gateway.card'),
  'net banking': () => say('gateway.netBanking'),
  'wallet': () => say('gateway.wallet'),
}
const chosen = [...gatewayActs.filter(act => act !== 'back'), 'chance'] as const
const outcomes: Record<typeof chosen[number], { title: () => string, help: () => string }> = {
  pay: { title: () => say('gateway.pay'), help: () => say('gateway.theGatewayChargesAndTellsThe') },
  decline: { title: () => say('gateway.decline'), help: () => say('gateway.theBankSaysNo') },
  silent: { title: () => say('gateway.payThenSilence'), help: () => say('gateway.theGatewayChargesButItsMessage') },
  twice: { title: () => say('gateway.payToldTwice'), help: () => say('gateway.theGatewayTellsTwice') },
  late: { title: () => say('gateway.payToldLate'), help: () => say('gateway.theGatewayTellsLate') },
  less: { title: () => say('gateway.payLess'), help: () => say('gateway.theGatewayTakesLess') },
  forged: { title: () => say('gateway.forged'), help: () => say('gateway.somebodyElseCalls') },
  chance: { title: () => say('gateway.chance'), help: () => say('gateway.theGatewayChooses') },
}

/** An order that waits to be paid, or what became of it. `office` is where the payer came from. */
export function orderPage(nonce: string, order: Order, office: string): Promise<string> {
  if (order.state !== 'open') {
    return draw(nonce, amountOf(order), [
      h('div', { class: 'paper' }, [...heading(order, false), ...ended(order),
        h('p', [h('a', { href: office + order.returnTo }, say('gateway.backToTheApplication'))])]),
    ])
  }
  return draw(nonce, amountOf(order), [h('form', { class: 'paper', method: 'post', action: `/pay/${encodeURIComponent(order.id)}` }, [
    ...heading(order, true),
    h('input', { type: 'hidden', name: 'office', value: office }),
    h('fieldset', [h('legend', say('gateway.howToPay')), ...gatewayMethods.filter(method =>
      order.method === null || order.method === method
    ).map((method, i) => choice('method', method, methodTitles[method](), '', i === 0))]),
    h('fieldset', [h('legend', say('gateway.whatIsToHappen')), ...chosen.map((act, i) =>
      choice('act', act, outcomes[act].title(), outcomes[act].help(), i === 0)
    )]),
    h('button', { type: 'submit' }, say('gateway.goOn')),
    h('p', [h('a', { href: office + order.returnTo }, say('gateway.leave'))]),
  ])])
}

function ended(order: Order): VNode[] {
  if (order.state === 'expired') return [h('p', { class: 'bad' }, say('gateway.timeIsOver'))]
  if (order.state === 'declined') return [h('p', { class: 'bad' }, say('gateway.declined'))]
  return [h('p', { class: 'good' }, say('gateway.charged')), ...order.charged === null
    ? []
    : [h('p', say('gateway.chargedLess', { amount: amountOf({ amount: order.charged, currency: order.currency }) }))]]
}

/** The payer's bank asks for the word that it has sent; here it says it at once, since nobody has a telephone. */
export function wordPage(nonce: string, order: Order, office: string, isWrong: boolean): Promise<string> {
  return draw(nonce, amountOf(order), [h('form', { class: 'paper', method: 'post', action: `/pay/${encodeURIComponent(order.id)}/word` }, [
    ...heading(order, true),
    h('input', { type: 'hidden', name: 'office', value: office }),
    h('p', say('gateway.theBankAsks', { method: order.method ? methodTitles[order.method]() : '', word: order.bankWord ?? '' })),
    ...isWrong ? [h('p', { class: 'bad' }, say('gateway.wordWrong', { left: 3 - order.wrongWords }))] : [],
    h('p', [
      h('input', {
        'type': 'text',
        'name': 'word',
        'inputmode': 'numeric',
        'autocomplete': 'one-time-code',
        'maxlength': 4,
        'aria-label': say('gateway.word'),
      }),
    ]),
    h('button', { type: 'submit' }, say('gateway.confirm')),
  ])])
}

/** The gateway's own book: the newest orders, each charge of which a bank may take back. */
export const bookPage = (nonce: string) => (orders: Order[]): Promise<string> =>
  draw(nonce, say('gateway.simulatedPaymentGateway'), [h('div', { class: 'paper' }, [
    h('h1', say('gateway.newestOrders')),
    orders.length === 0 ? h('p', say('gateway.noOrders')) : h(
      'table',
      orders.map(order =>
        h('tr', [
          h('td', [order.description, h('br'), h('span', { class: 'soft' }, order.id)]),
          h('td', amountOf(order)),
          h('td', say('gateway.stateOf', { state: order.state })),
          h(
            'td',
            order.state === 'charged'
              ? [
                h('form', { method: 'post', action: `/back/${encodeURIComponent(order.id)}` }, [
                  h('button', { type: 'submit', class: 'small' }, say('gateway.takeBack')),
                ]),
              ]
              : [],
          ),
        ])
      ),
    ),
  ])])

/** Why something was not done; without a text, that it failed. */
export const messagePage = (nonce: string, text: string | null): Promise<string> =>
  draw(nonce, say('gateway.simulatedPaymentGateway'), [
    h('div', { class: 'paper' }, [h('p', { class: 'bad' }, text ?? say('gateway.notRead'))]),
  ])
