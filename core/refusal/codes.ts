/**
 * Every refusal by its code, with the kind that decides the HTTP status. Words come from the code and its parameters
 * (`core/words/en/refusals` and `office-refusals`). A code lasts: programs go by it.
 */
export const refusalKinds = {
  'session.none': 'not-signed-in', 'session.over': 'not-signed-in', 'session.foreign-origin': 'not-allowed', 'session.foreign-page': 'not-allowed',
  'session.wrong': 'not-signed-in', 'session.too-many': 'too-many', 'session.factor-wanted': 'second-factor', 'session.factor-wrong': 'second-factor',
  'access.role': 'not-allowed', 'access.relation': 'not-allowed', 'access.second-factor': 'not-allowed', 'access.second-self': 'not-allowed',
  'account.password-short': 'bad-input', 'account.password-long': 'bad-input', 'account.password-common': 'bad-input', 'account.password-own': 'bad-input',
  'account.password-wrong': 'bad-input', 'account.link-over': 'not-found', 'account.code-wrong': 'bad-input', 'account.factor-set': 'conflict', 'account.factor-none': 'not-now',
  'code.number': 'bad-input', 'office.country': 'bad-input',
  'account.stale': 'not-now', 'account.address-taken': 'conflict', 'account.addresses-many': 'conflict', 'account.address-unknown': 'not-found', 'account.address-last': 'conflict', 'account.access-same': 'conflict',
  'account.session-unknown': 'not-found', 'account.factor-required': 'not-now',
  'staff.unknown': 'not-found', 'staff.name-taken': 'conflict', 'staff.last-administrator': 'not-now', 'staff.own-account': 'not-allowed', 'staff.roles-unknown': 'bad-input',
  'input.shape': 'bad-input', 'input.value': 'bad-input', 'input.body': 'too-large', 'input.depth': 'bad-input', 'input.json': 'bad-input', 'input.text': 'bad-input', 'input.header': 'bad-input', 'input.address': 'bad-input', 'input.id': 'not-found', 'input.word': 'not-found',
  'input.list-place': 'bad-input', 'input.upload-broken': 'bad-input', 'input.upload-slow': 'bad-input', 'route.unknown': 'not-found', 'fault': 'fault', 'office.unreachable': 'fault', 'office.answer': 'fault',
  'sheet.not-saved': 'not-now',
  'erase.too-early': 'not-now', 'erase.open': 'not-now', 'erase.released': 'conflict', 'erase.cycle': 'not-now', 'file.erased': 'not-found', 'application.erased': 'not-now',
  'work.unknown': 'not-found', 'work.other': 'conflict', 'work.not-started': 'fault', 'work.unknown-kind': 'not-found',
  'roster.view-of-other': 'conflict', 'cycle.unknown': 'not-found', 'cycle.exists': 'conflict', 'notice.version-unknown': 'not-found', 'notice.faults': 'bad-input', 'code.address': 'bad-input', 'code.wait': 'too-many', 'code.too-many': 'too-many', 'code.wrong': 'bad-input', 'code.over': 'bad-input', 'notice.warnings': 'bad-input', 'notice.other-cycle': 'bad-input', 'notice.unchanged': 'bad-input',
  'notice.newer-format': 'bad-input', 'draft.unknown': 'not-found', 'draft.kept-since': 'conflict', 'notice.venue-unknown': 'bad-input', 'notice.centres-differ': 'conflict', 'notice.centre-elsewhere': 'conflict', 'notice.room-exists': 'conflict',
  'application.unknown': 'not-found', 'application.no-owner': 'not-found',
  'dates.not-open': 'not-now', 'dates.closed': 'not-now', 'dates.payment-over': 'not-now', 'dates.correction-over': 'not-now', 'dates.before-close': 'not-now', 'dates.before-cards': 'not-now',
  'dates.reason': 'bad-input', 'dates.earlier': 'bad-input', 'dates.none': 'bad-input',
  'act.form-frozen': 'not-now', 'act.form-not-submitted': 'not-now', 'act.form-not-open': 'not-now', 'act.form-not-withdrawn': 'conflict', 'act.form-over': 'not-now', 'act.not-correcting': 'not-now',
  'act.item-closed': 'not-now', 'act.not-empty': 'not-now', 'act.decided': 'not-now', 'act.paid': 'not-now', 'act.payment-under-way': 'not-now', 'act.referred': 'conflict', 'act.not-referred': 'conflict', 'act.likely-duplicate': 'conflict', 'case.in-hand': 'conflict', 'case.own-first': 'conflict', 'pair.unknown': 'not-found', 'pair.judged': 'conflict', 'pair.over': 'conflict', 'decision.same-person': 'conflict', 'act.not-waiting': 'conflict', 'act.fee-open': 'not-now', 'act.fee-not-due': 'not-now',
  'act.not-accepted': 'not-now', 'act.not-returned': 'not-now', 'act.not-refused': 'not-now', 'act.answered': 'not-now', 'act.seat-held': 'not-now', 'act.no-seat': 'not-now',
  'act.no-card': 'not-now', 'act.not-withheld': 'not-now', 'act.card-held': 'not-now', 'act.reason': 'bad-input', 'act.not-lapsing': 'not-now', 'act.unchanged': 'conflict', 'act.changed': 'conflict',
  'act.barred': 'conflict', 'barred.unknown': 'not-found', 'barred.judged': 'conflict', 'barred.headings': 'bad-input', 'barred.too-many': 'too-large', 'act.correction-waits': 'conflict', 'act.correction-asked': 'conflict', 'act.no-correction': 'not-now', 'correction.item-closed': 'not-now', 'correction.nothing': 'bad-input', 'correction.overtaken': 'conflict', 'correction.own': 'not-allowed', 'dates.no-correction': 'not-now',
  'act.proposed': 'conflict', 'act.proposal-unknown': 'not-found', 'act.proposal-over': 'conflict',
  'sheet.question-unknown': 'bad-input', 'sheet.conflict': 'conflict', 'sheet.declaration': 'bad-input', 'sheet.fee-first': 'conflict', 'letter.announced': 'conflict', 'register.columns': 'bad-input', 'register.geojson': 'bad-input', 'register.rows': 'bad-input', 'register.faults': 'bad-input', 'handout.kind': 'bad-input', 'handout.size': 'too-large', 'handout.unknown': 'not-found', 'handout.same': 'conflict', 'register.room-unknown': 'not-found', 'register.venue-unknown': 'not-found', 'register.session-unknown': 'bad-input', 'register.room-seats': 'bad-input', 'register.rooms-as-before': 'conflict', 'payment.together-cycles': 'conflict', 'payment.together-none': 'conflict', 'payment.together-many': 'bad-input', 'sheet.unpaid': 'conflict', 'sheet.post-closed': 'not-now', 'sheet.post-early': 'not-now', 'sheet.too-many-posts': 'conflict', 'sheet.incomplete': 'bad-input', 'sheet.files-missing': 'bad-input',
  'sheet.files-waiting': 'not-now', 'sheet.posts-shut': 'bad-input',
  'decision.no-reasons': 'bad-input', 'decision.file-missing': 'not-now', 'decision.findings-failed': 'bad-input', 'order.none': 'not-now', 'check.no-values': 'not-found',
  'act.keying': 'not-now', 'act.keyed-once': 'not-now', 'act.not-keying': 'not-now', 'act.keyed-nothing': 'not-now', 'act.keying-begun': 'not-now', 'act.keying-others': 'not-now', 'keying.same-person': 'not-allowed', 'keying.in-hand': 'not-now', 'keying.unsettled': 'bad-input', 'keying.unknown': 'not-found', 'keying.from-the-future': 'bad-input', 'keying.blind': 'not-now',
  'act.endorsement-awaited': 'not-now', 'sheet.endorsements-missing': 'bad-input', 'code.work': 'too-many', 'endorsement.enough': 'conflict', 'endorsement.asked': 'conflict', 'endorsement.no-name': 'bad-input', 'endorsement.slow': 'too-many', 'endorsement.own-address': 'bad-input', 'endorsement.too-many': 'conflict', 'endorsement.not-wanted': 'bad-input', 'endorsement.over': 'not-now', 'endorsement.unknown': 'not-found', 'endorsement.given': 'conflict', 'endorsement.link': 'not-found', 'endorsement.settled': 'conflict', 'endorsement.answer': 'bad-input', 'endorsement.too-long': 'bad-input',
  'request.none': 'bad-input', 'request.form': 'not-now', 'request.refused': 'not-now', 'request.published': 'not-now', 'request.seat': 'not-now', 'request.sessions': 'not-now', 'act.request-open': 'not-now',
  'act.slip-waits': 'conflict', 'act.no-slip': 'not-now', 'slip.day': 'bad-input', 'slip.amount': 'bad-input', 'slip.unknown': 'not-found', 'slip.same': 'conflict',
  'claim.none': 'bad-input', 'claim.form': 'not-now', 'claim.refused': 'not-now', 'claim.published': 'not-now',
  'table.empty': 'bad-input', 'table.unknown': 'bad-input', 'table.packed': 'bad-input', 'table.broken': 'bad-input', 'table.csv': 'bad-input', 'table.rows': 'bad-input', 'table.columns': 'bad-input', 'table.size': 'too-large',
  'roll.unknown': 'not-found', 'roll.no-rows': 'bad-input', 'roll.no-key-column': 'bad-input', 'roll.field-twice': 'bad-input', 'roll.field-unknown': 'bad-input', 'roll.under-way': 'conflict', 'roll.not-tried': 'conflict', 'roll.stopped': 'not-now', 'roll.sender': 'bad-input',
  'review.unknown': 'not-found', 'review.cancelled': 'not-now', 'review.not-listed': 'conflict', 'review.other-version': 'conflict', 'review.accepted': 'conflict', 'review.waits': 'conflict', 'review.no-moment': 'bad-input',
  'fee.no-category': 'bad-input', 'fee.unbalanced': 'fault', 'fee.relief-amount': 'bad-input', 'act.no-relief': 'not-now', 'payment.not-opened': 'fault', 'payment.nothing-due': 'not-now', 'payment.way': 'bad-input', 'act.nothing-owed': 'not-now', 'standing.unknown': 'not-found', 'question.too-many': 'conflict', 'question.about': 'bad-input', 'question.unknown': 'not-found', 'question.answered': 'conflict', 'question.held': 'conflict', 'refund.order': 'conflict', 'refund.line': 'conflict', 'refund.event': 'conflict', 'refund.lay-aside': 'conflict', 'payment.not-assessed': 'not-now',
  'statement.unknown': 'bad-input', 'statement.broken': 'bad-input', 'statement.entities': 'bad-input', 'statement.mixed': 'bad-input', 'statement.amount': 'bad-input', 'statement.date': 'bad-input', 'statement.empty': 'bad-input',
  'statement.headings': 'bad-input', 'statement.running': 'bad-input', 'statement.balance': 'bad-input', 'statement.no-mapping': 'bad-input', 'statement.account': 'bad-input', 'statement.currency': 'bad-input', 'statement.size': 'bad-input',
  'statement.otherwise': 'conflict', 'statement.covered': 'conflict', 'statement.rewritten': 'conflict', 'bank.unknown': 'not-found', 'bank.number': 'bad-input', 'bank.exists': 'conflict', 'bank.in-use': 'conflict', 'bank.no-slips': 'conflict',
  'settlement.mixed': 'bad-input', 'settlement.line': 'bad-input', 'settlement.sum': 'bad-input', 'closing.difference': 'conflict', 'closing.ahead': 'not-now', 'closing.done': 'conflict', 'slip.nothing-due': 'not-now', 'roll.no-files': 'bad-input', 'letter.unknown': 'not-found', 'letter.waits': 'conflict', 'roll.packing': 'bad-input', 'bill.unknown': 'not-found', 'bill.nothing-due': 'conflict', 'bill.payer': 'bad-input', 'bill.payer-none': 'conflict', 'bill.withdrawn': 'conflict', 'receipt.number': 'bad-input', 'receipt.unknown': 'not-found', 'refund.unknown': 'not-found', 'refund.too-much': 'not-now', 'refund.state': 'conflict', 'refund.self': 'not-allowed', 'refund.none': 'not-now', 'refund.returned': 'conflict', 'line.unknown': 'not-found', 'line.matched': 'conflict', 'line.not-matched': 'conflict', 'line.parts': 'bad-input', 'line.outgoing': 'bad-input', 'line.incoming': 'bad-input', 'line.no-due': 'bad-input', 'line.currency': 'bad-input',
  'payment.unsigned': 'not-allowed', 'payment.unreadable': 'bad-input', 'payment.order-unknown': 'not-found', 'live.too-many': 'too-many', 'payment.no-gateway': 'conflict', 'payment.gateway-silent': 'conflict', 'standin.none': 'not-found', 'standin.nothing': 'not-found',
  'run.unknown': 'not-found', 'run.nobody': 'not-now', 'run.policy': 'bad-input', 'run.stopped': 'not-now', 'run.city-session-unknown': 'bad-input', 'run.accessible-above': 'bad-input',
  'run.sheet-city': 'conflict', 'run.hand-full': 'conflict', 'run.city-unknown': 'bad-input', 'run.person-unknown': 'not-found', 'run.reasons-not-kept': 'not-now', 'run.question-not-kept': 'not-now',
  'run.other-cycle': 'bad-input', 'run.published': 'conflict', 'run.not-certified': 'not-now', 'run.seats-missing': 'not-now', 'run.city-full': 'conflict', 'run.nobody-waits': 'not-now',
  'run.publishing-stopped': 'not-now', 'run.no-seat': 'fault',
  'place.not-in-run': 'not-found', 'place.no-seat': 'not-now', 'place.closed': 'not-now', 'place.city-unknown': 'bad-input', 'place.not-placeable': 'not-now', 'place.not-by-hand': 'conflict',
  'demand.no-cities': 'not-now', 'demand.nobody': 'not-now',
  'file.not-kept': 'fault', 'file.slot-unknown': 'not-found', 'file.unknown': 'not-found', 'file.own-original': 'not-now', 'file.originals-kept': 'not-now', 'file.no-copy': 'not-found', 'file.bytes-missing': 'not-found', 'file.bytes-damaged': 'fault', 'file.store-unset': 'fault', 'file.store-unreachable': 'fault',
  'card.none': 'not-now', 'cards.none-here': 'not-now', 'card.blocked': 'not-now', 'print.waits': 'not-now', 'print.face': 'fault', 'print.letter': 'fault',
  'picture.damaged': 'not-an-image', 'picture.pixels': 'too-large', 'picture.bytes': 'too-large', 'picture.none-chosen': 'not-now', 'picture.too-heavy': 'not-now', 'picture.no-better': 'not-now',
  'document.pdf-broken-off': 'not-an-image', 'document.pdf-broken': 'not-an-image', 'document.pdf-secret': 'not-an-image', 'document.pdf-program': 'not-an-image', 'document.pdf-nested': 'not-an-image', 'document.pdf-costly': 'too-large', 'document.pdf-empty': 'not-an-image',
  'document.too-many-pages': 'not-an-image', 'document.too-heavy': 'not-now', 'browser.no-canvas': 'not-now', 'browser.not-looked': 'not-now', 'browser.picture-not-looked': 'not-now', 'page.fault': 'fault',
  'picture.empty': 'not-an-image', 'picture.gif': 'not-an-image', 'picture.pdf': 'not-an-image', 'picture.riff': 'not-an-image', 'picture.heic': 'not-an-image', 'picture.avif': 'not-an-image',
  'picture.tiff': 'not-an-image', 'picture.markup': 'not-an-image', 'picture.text': 'not-an-image', 'picture.unknown': 'not-an-image', 'picture.head': 'not-an-image',
  'picture.broken-off': 'not-an-image', 'picture.moves': 'not-an-image',
} as const

export type RefusalCode = keyof typeof refusalKinds
export type RefusalKind = typeof refusalKinds[RefusalCode]
export type RefusalParameters = Readonly<Record<string, string | number>>

/** Why something may not be done, as data. */
export interface RefusalReason { code: RefusalCode, parameters: RefusalParameters }
