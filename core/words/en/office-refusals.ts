import type { RefusalCode } from '../../refusal/codes'
import { messages as ofFiles } from './file-refusals'
import { knowRefusals, messages as ofPages, nothing } from './refusals'
import { messages as sent } from './sent-refusals'

export { refusalText } from './refusals'

/** What refusals say that only the office meets. */
const messages = {
  'session.wrong': 'Name and password do not fit together. Check both; capital letters count.',
  'session.factor-wanted': 'Enter the six digits that your authenticator shows, or one of your recovery codes.',
  'session.factor-wrong': 'This code is not the present one, or was used before. Wait for the next one, or use a recovery code.',
  'access.second-factor': `Your role needs a second factor. Set it up on the page of your account first. ${nothing}`,
  'access.second-self': `A second person has to confirm this: who began it cannot. ${nothing}`,
  'account.password-short':
    'The password has {length, plural, one {# character} other {# characters}}; it needs at least {least}. Several words in a row are easy to remember.',
  'account.password-long': 'The password has {length} characters; at most {most} are taken.',
  'account.password-common': 'This password is on the list of common ones. Choose another; several unrelated words in a row are good.',
  'account.password-own': 'The password contains your sign-in name or is a single character repeated. Choose another.',
  'account.password-wrong': `The present password is not right. ${nothing}`,
  'account.link-over': 'This link was used already, has ended, or was cut short. Ask an administrator for a new one.',
  'account.code-wrong': 'The six digits do not fit. Check that the clock of your telephone is right, and enter the digits it shows now.',
  'account.factor-set': `A second factor is set up already. Remove it first. ${nothing}`,
  'account.factor-none': `No second factor is set up. ${nothing}`,
  'account.factor-required': `Your role needs a second factor; it can be replaced and not removed. ${nothing}`,
  'account.session-unknown': `There is no such session of yours. ${nothing}`,
  'cycle.exists': `There is a cycle "{cycle}" already. Propose an amended notice for it instead. ${nothing}`,
  'act.no-relief': `Nothing of the fee of {number} was waived or written off. ${nothing}`,
  'act.not-waiting':
    '{number} does not wait for a decision: its form is {form}, its scrutiny {scrutiny}. Nothing was changed; go on to the next.',
  'act.referred':
    `A desk of the office was asked about {number} and has not answered. Answer for it, or take the question back. ${nothing}`,
  'act.not-referred': `Nothing is asked about {number}. ${nothing}`,
  'act.likely-duplicate': `{number} is likely of somebody who has another application. Judge the pair first. ${nothing}`,
  'act.fee-open': 'The fee of {number} is {fee}. It comes into the queue when the fee is settled.',
  'act.data-in-use': `{number} is {headline}: what it tells of its person is needed. Withdraw it first. ${nothing}`,
  'act.money-owed': `Money of {number} is owed back, and its payee must be known. Send it first. ${nothing}`,
  'act.data-kept': `{number} is not released for erasing. ${nothing}`,
  'act.not-refused': `{number} is {headline}, not refused. ${nothing}`,
  'act.no-seat': `{number} holds no published seat. ${nothing}`,
  'act.no-card': `{number} has no card in force. ${nothing}`,
  'act.not-withheld': `The card of {number} is not withheld. ${nothing}`,
  'act.card-held': `The card of {number} is {card}. ${nothing}`,
  'act.not-lapsing': '{number} does not lapse now.',
  'act.proposed': 'This waits for a second person already, since {by} began it.',
  'act.proposal-unknown': 'There is nothing to confirm under this id.',
  'act.proposal-over': `This was {state} already. ${nothing}`,
  'question.answered': '{by} has answered this question meanwhile.',
  'check.no-values': 'Nothing that was decided on has a value of "{check}". Pick another check.',
  'request.none': `{number} does not ask for "{request}". Load the case again. ${nothing}`,
  'request.form': `{number} is {form}; what is asked for is decided once the form is submitted. ${nothing}`,
  'request.refused': `{number} is refused already. ${nothing}`,
  'request.published':
    '{number} holds a published seat, which rests on what was decided before. Take the seat back first; nothing was changed.',
  'request.sessions':
    'With so much more time the sessions of {number} run into each other. Take the seats back first, so that the next run gives others; nothing was changed.',
  'request.seat':
    'The seat of {number} has steps, and who is granted this sits step-free. Take the seat back or place the person by hand first; nothing was changed.',
  'dates.earlier': `{date} is moved later only: {to} is not after {from}. To end a period earlier, amend the notice. ${nothing}`,
  'dates.none': `No date was changed. Write a later moment for at least one. ${nothing}`,
  'fee.relief-amount': `{amount} of {number} cannot be given up: {due} is due. ${nothing}`,
  'sheet.too-many-posts':
    '{number} chooses more than the notice allows ({limits}), and that was not granted. Grant it, or return the form.',
  'correction.own': `Whoever handed a correction of {number} in does not accept it. Somebody else has to look. ${nothing}`,
  'correction.overtaken':
    `"{item}" of {number} was changed since this correction was handed in. Refuse it, and have it asked for anew. ${nothing}`,
  'office.country':
    '{value} is no country whose numbers are known. Give its two letters (ISO 3166-1), such as NO, or leave it blank. Nothing was changed.',
  'account.stale':
    `You signed in more than {minutes} minutes ago. How you come in can be changed for {minutes} minutes after signing in: sign out, come in again, and then change it. ${nothing}`,
  'account.address-taken': `{address} belongs to another account. Sign in with it and take it off there first. ${nothing}`,
  'account.addresses-many': `An account has {most} addresses at most. Take one off first. ${nothing}`,
  'account.address-unknown': `That address is not on your account any more. Load the page again. ${nothing}`,
  'account.address-last':
    `{address} is the only address on your account: without it you could not come in any more. Add another first. ${nothing}`,
  'account.access-same': `{number} belongs already to the account that {address} opens. ${nothing}`,
  'act.keying':
    `{number} is a paper form that two people key. It can be submitted once both have keyed it and nothing differs any more. ${nothing}`,
  'act.keyed-once': `{number} was keyed once and stands still until a second person has keyed it, and what differs is settled. ${nothing}`,
  'act.not-keying': `{number} is not at this point of its keying any more. Load the page again. ${nothing}`,
  'act.keyed-nothing': `Nothing is keyed in {number} yet. Key what stands on the paper first. ${nothing}`,
  'act.keying-begun': `A second person has begun to key {number}, so it stays as it is. What differs is settled afterwards. ${nothing}`,
  'act.keying-others': `Only whoever keys {number} the second time can say that it is done. ${nothing}`,
  'keying.same-person': `You keyed {number} the first time. Somebody else has to key it the second time, from the paper alone. ${nothing}`,
  'keying.in-hand': `{by} keys {number} now. Take another form, or this one half an hour after they last worked on it. ${nothing}`,
  'keying.unsettled':
    '{count, plural, one {# difference has} other {# differences have}} no answer yet in {number}. Say for each what stands on the paper. Nothing was changed.',
  'keying.unknown': 'No paper form has this number. Go back to the list of paper forms.',
  'keying.from-the-future': 'The form cannot have come in later than now. Enter the moment at which it came in. Nothing was registered.',
  'keying.blind':
    'You key {number} the second time, so what was keyed before is not shown. Finish your keying first: both are compared then.',
  'act.endorsement-awaited':
    `{number} waits for what somebody else has to say. It comes by their link, or is recorded from paper on the sheet. ${nothing}`,
  'act.request-open': `{number} asks for something that nobody has decided on. Grant or decline it first. ${nothing}`,
  'payment.unsigned': 'The event is not signed by the gateway; it was not counted.',
  'payment.unreadable':
    'The gateway signed this, but it holds no event that can be read: an id, an order, charged or declined, an amount in minor units and a currency. It was not counted.',
  'act.barred': `{number} is, or may be, of somebody who is barred: judge that first, or refuse it. ${nothing}`,
  'dates.before-close': `Applications close on {closes}; seats are published after that. ${nothing}`,
  'dates.before-cards': `Cards go out from {cardsFrom}. ${nothing}`,
  'question.held': '{by} has this question in hand.',
  'card.blocked': 'The card of {number} cannot be issued now ({blocker}). Clear that first; nothing was changed.',
  'staff.unknown': 'There is no such member of staff.',
  'staff.name-taken': `The sign-in name "{name}" is taken. Choose another. ${nothing}`,
  'staff.last-administrator': `{name} is the last active administrator. Make somebody else an administrator first. ${nothing}`,
  'staff.own-account': `Another administrator does this for your own account. ${nothing}`,
  'staff.roles-unknown': `A member of staff needs at least one role. ${nothing}`,
  'route.unknown': 'There is nothing at this address.',
  'letter.announced':
    'A letter of this number went out before, with other words: “{subject}”. Load the page anew and write again; nothing was sent.',
  'payment.together-none': 'Nobody in this list has a fee to pay.',
  'payment.together-many':
    'More than {most} in this list have a fee to pay; so many at most are paid for at once. Filter further; nothing was opened.',
  'register.room-unknown': `{cycle} uses no room “{room}”. Load the register again to see its rooms. ${nothing}`,
  'register.venue-unknown': `The register has no venue “{venue}”. Load it again. ${nothing}`,
  'register.session-unknown': `The notice has no session “{session}”. ${nothing}`,
  'register.room-seats':
    `{kind, select, stepFree {{room} would have {value} step-free seats of {seats} in all} other {{room} would have {seats} seats, so there is no seat {value} that nobody can sit on}}. ${nothing}`,
  'register.rooms-as-before': 'These rooms are used just so already. Nothing was changed.',
  'handout.kind': `This is no PDF. Files to read are PDFs, which every telephone opens. ${nothing}`,
  'handout.size': `The file is larger than {most} MB. People read it on a slow line: make it smaller. ${nothing}`,
  'handout.unknown': 'There is no such file to read. It may have been replaced or taken away: load the page again.',
  'handout.same': `“{title}” is this very file already, as version {version}. ${nothing}`,
  'register.columns': `The first row of the table has to name these columns: {columns}. Missing: {missing}. ${nothing}`,
  'register.geojson':
    `This is no collection of cities as points by RFC 7946{where}. Take the register along as GeoJSON to see how one looks. ${nothing}`,
  'register.rows': `The file has more than {most} rows. Send it in parts. ${nothing}`,
  'register.faults': `{count, plural, one {# row is} other {# rows are}} wrong. Mend the file and try it again. ${nothing}`,
  'work.unknown': 'There is no such work.',
  'work.other': 'Other work of this kind is under way, started by {by}. Wait for its end or stop it; nothing was started.',
  'work.not-started': 'The work could not be started. Try again.',
  'work.unknown-kind': 'There is no work of the kind "{kind}".',
  'roster.view-of-other': `Only who kept this list may change it. Keep yours under another name. ${nothing}`,
  'notice.version-unknown': 'Version {version} of the notice "{cycle}" is missing.',
  'notice.faults':
    `The notice has {count, plural, one {# error} other {# errors}}: {shown}{more, select, yes { And more.} other {}} ${nothing}`,
  'notice.warnings':
    `The notice has {count, plural, one {# warning} other {# warnings}}. Say why the cycle may open all the same, or mend what they name. ${nothing}`,
  'notice.other-cycle': `The file is the notice of {found}, not of {wanted}. ${nothing}`,
  'notice.unchanged': 'The file is the notice in force (version {version}) without a change. Nothing was done.',
  'notice.newer-format':
    `The notice is of format {format}; this program reads formats up to {known}. Use a newer version of the program. ${nothing}`,
  'draft.unknown': 'There is no such draft; it may have been used or thrown away.',
  'draft.kept-since':
    'This draft was kept anew by {by} since you took it. Yours was not kept: download the newer one and bring both together.',
  'notice.venue-unknown': `The register has no venue "{venue}" in "{city}". ${nothing}`,
  'notice.centres-differ':
    `The file describes other rooms in {city} than this cycle uses. Rooms are changed in the register of centres, not by a notice: name the city by its id and number only. ${nothing}`,
  'notice.centre-elsewhere':
    `The register holds the code "{code}" in another place. Give the venue or room of the file a code of its own. ${nothing}`,
  'notice.room-exists': '{venue} has a "{room}" already. Give the new room another name; nothing was changed.',
  'barred.unknown': `Nobody of that kind is on the list, or it was lifted already. ${nothing}`,
  'barred.judged': `Somebody has judged this already; it stands in the log. ${nothing}`,
  'barred.headings':
    `The list has no heading that names its columns: wanted are "reason", and "number" or "name" with "born"; found was {found}. ${nothing}`,
  'barred.too-many': `The list has more than {most} rows. Send it in parts. ${nothing}`,
  'case.in-hand':
    `{by} has this case in hand for another {minutes, plural, one {minute} other {# minutes}}. Take another, or wait. ${nothing}`,
  'case.own-first': `You have decided on this case yourself: somebody else looks a second time. ${nothing}`,
  'pair.unknown': `There is no such pair, or the application that is to stand is none of the two. ${nothing}`,
  'pair.judged': `Somebody has judged this pair already: {state, select, same {the same person} other {different people}}. ${nothing}`,
  'pair.over': `One of the two has left the flow: there is nothing to judge. ${nothing}`,
  'decision.same-person':
    `{other} of the same person is accepted already, and the notice takes one application a person. Judge the pair, or refuse {number}. ${nothing}`,
  'decision.no-reasons': `To {decision} needs at least one item with its reason. ${nothing}`,
  'decision.file-missing': '{title} of {number} is missing. Return the application for it.',
  'decision.findings-failed':
    `{count, plural, one {# finding} other {# findings}} failed ({first}). To accept all the same, write why; it stays in the record. ${nothing}`,
  'order.none': '{number} is not refused: there is no order to print.',
  'claim.none': `{number} makes no claim "{claim}". Load the case again. ${nothing}`,
  'claim.form': `{number} is {form}; claims are ruled on once the form is submitted. ${nothing}`,
  'claim.refused': `{number} is refused already. ${nothing}`,
  'claim.published': '{number} holds a published seat. Take the seat back first; nothing was changed.',
  'review.waits':
    `Review {serial} was agreed and comes into force at {at}; nothing else may come between. Lay it aside first, or wait. ${nothing}`,
  'review.no-moment': `Without an amendment there is nothing that could hold from a later moment. Accept it at once. ${nothing}`,
  'table.empty': `The file is empty. ${nothing}`,
  'table.unknown': `This is no table that can be read: CSV, XLSX and ODS can. Save it as one of them. ${nothing}`,
  'table.packed': `The file is packed in a way that cannot be read, or unpacks to more than 1 GB. Save it anew. ${nothing}`,
  'table.broken': `The sheet in this file cannot be read to its end. Open it, save it anew and send that. ${nothing}`,
  'table.csv':
    `{what, select, open {From line {line} on a quotation mark is never closed} other {In line {line} a quotation mark stands inside a cell that does not begin with one}}. Write two of them for one inside a cell. ${nothing}`,
  'table.rows': `The table has more than {most} rows. Send it in parts. ${nothing}`,
  'table.columns': `Row {row} has {columns} columns; at most {most} are read. ${nothing}`,
  'table.size': `A table may have {most} MB at most. Send it in parts. ${nothing}`,
  'roll.unknown': 'There is no such roll.',
  'roll.no-rows': `The table has a heading and nothing below it. ${nothing}`,
  'roll.no-key-column':
    `Nothing tells the people of this roll apart: say which column is the sender's number, or which are name and date of birth. ${nothing}`,
  'roll.field-twice': `Two columns are said to be “{field}”. Leave one of them out. ${nothing}`,
  'roll.field-unknown': `The notice has no field “{field}”. Load the page anew. ${nothing}`,
  'roll.under-way': `This roll is being worked on. Wait until that has ended, or stop it. ${nothing}`,
  'roll.not-tried': `Try the roll first: what it would do is shown before it does it. ${nothing}`,
  'roll.hand-in-stopped': 'Stopped. What was handed in stays so; handing in again goes on with the rest.',
  'roll.stopped': 'Stopped. Rows that were entered stay entered; entering again goes on with the rest.',
  'roll.sender': `Say who sent the roll: the same person from the same sender is entered once. ${nothing}`,
  'review.unknown': 'There is no such review.',
  'review.cancelled': 'The review was cancelled. The verdicts in force stay as they were.',
  'review.not-listed': `Review {serial} is {state}; only a finished list can be accepted. ${nothing}`,
  'review.other-version':
    `The notice in force is version {version} by now; review {serial} compares with version {base}. Judge all again. ${nothing}`,
  'review.accepted': `Review {serial} was accepted by {by}. ${nothing}`,
  'statement.unknown':
    'This is no bank statement that can be read. ISO 20022 camt.053, MT940 and CSV are read; ask your bank for one of them. Nothing was taken.',
  'statement.broken':
    'The statement cannot be read from line {line} on: {what, select, xml {the XML is not sound; the file may be cut} cut {the file ends within a statement} account {it does not say whose account it is} date {a day is missing} order {a field stands before the beginning of a statement} line {this is no statement line} encoding {its character set is not known} other {{what}}}. Nothing of it was taken; ask your bank for the file again.',
  'statement.entities':
    'The statement declares a document type, which statements never need and which can be used to do harm. Nothing was taken.',
  'statement.mixed': 'Line {line} is in {currency}, the statement in {other}. Nothing was taken; nothing is converted.',
  'statement.amount':
    'Line {line}: "{text}" is no amount as this statement writes them. Nothing was taken; see the decimal mark and the places of the currency.',
  'statement.date':
    'Line {line}: "{text}" is no day as this statement writes them. Nothing was taken; see the order of day, month and year.',
  'statement.empty': 'There is no line below the headings. Nothing was taken.',
  'statement.headings':
    "No line of the file holds all the headings that this account's columns were given: {headings}. Nothing was taken; say anew what the columns mean.",
  'statement.running': 'The running balance does not lead to line {line}: a line before it is missing or changed. Nothing was taken.',
  'statement.balance':
    'The statement does not add up: {opening} and movements of {movements} do not make {closing}. Nothing was taken; ask your bank for the file again.',
  'statement.no-mapping': 'This account has no meaning yet for the columns of a CSV. Say which column is which first.',
  'statement.account': 'The statement is of account {found}, not of {wanted}. Nothing was taken.',
  'statement.currency': 'The statement is in {found}, the account in {wanted}. Nothing was taken.',
  'statement.size': 'The file is larger than {most} MB. Ask your bank for statements of fewer days.',
  'statement.otherwise':
    'Statement {identification} of this account was read before with other lines. Nothing was taken; ask your bank which one holds.',
  'statement.covered': 'Statements in another format already cover {day}, so that lines of this CSV would count twice. Nothing was taken.',
  'settlement.mixed': 'Payout {payout} has lines of several days or currencies. Nothing was taken.',
  'settlement.line': 'Line {line} lacks its payout, its order or a currency. Nothing was taken.',
  'settlement.sum': 'Line {line}: what was charged less the charge is not what is paid out. Nothing was taken.',
  'closing.difference': 'The day cannot be closed: {account} differs by {amount} from what explains it.',
  'closing.ahead': "{on} is not over yet in the office's zone or lies ahead of it. Close it in the evening or later.",
  'closing.done': '{on} is closed already, by {by}. What is found later is booked on the day when it is found.',
  'refund.unknown': 'There is no such refund.',
  'refund.too-much': '{number} is owed back {owed}, of which {under} is on its way already; {amount} is more than the rest.',
  'refund.state':
    'The refund is {state, select, proposed {proposed} approved {approved} withdrawn {laid aside} sent {sent} left {on a statement} returned {back again} other {{state}}} meanwhile. Nothing was changed.',
  'refund.self': 'Who proposed a refund cannot approve it. A second person must.',
  'refund.none': 'No approved refund in {currency} waits to be sent.',
  'refund.order': 'Of order {order} the gateway can still give back {left}; {amount} is more. Propose the rest to an account.',
  'refund.line': 'This line is no money that waits for an explanation.',
  'refund.event': 'This money of the gateway goes back already, or was booked for somebody.',
  'refund.lay-aside': 'This money is to be sent back. Lay the refund aside first.',
  'refund.returned': 'A refund that came back is proposed anew; this explanation cannot be taken back.',
  'bank.unknown': 'There is no such bank account.',
  'bank.number': '"{number}" is no account number: its check digits do not agree (ISO 13616).',
  'bank.exists': 'There is a bank account {number} already.',
  'statement.rewritten':
    'The file overlaps one that was read, but writes lines of those days otherwise: with them the balance of {day} is not reached. Nothing was taken, so that nothing counts twice; take a file that begins after the last one.',
  'bank.in-use': 'Account {number} has statements: its number and currency stay. Enter another account instead.',
  'letter.unknown': 'There is no such letter to an account. Codes are asked for again by whoever needs one.',
  'letter.waits': 'This letter is on its way to {address}; it need not be sent again.',
  'look.no-account':
    'Nobody has this application in an account of theirs, so nobody sees it here. To change that, give somebody access to it.',
  'look.no-act': 'You look as the candidate does. Nothing can be changed in their place; go back to the application to act on it.',
  'roll.no-files': 'There is no file in this packing. Choose a ZIP with the pictures and papers of the roll.',
  'roll.packing': 'A packing of more than {most} MB is not taken at once. Send it in parts.',
  'bill.payer': 'The notice names no payer {payer}; it may have been amended. Load the page anew.',
  'bill.payer-none': 'No fee waits for {payer} that is not on a bill of theirs already.',
  'bank.no-slips':
    'This office has no bank account yet that takes deposits in {currency}, so no slip can be made. Ask the office how to pay.',
  'line.unknown': 'There is no such line of a statement.',
  'line.matched': 'The line was explained by {by} meanwhile. Nothing was changed.',
  'line.not-matched': 'The line is not explained, so there is nothing to take back.',
  'line.parts': 'The parts make {sum}, the line is {amount}. They must be the same, each above zero and each for another application.',
  'line.outgoing': 'Money left the account with this line; it pays no due.',
  'line.incoming': 'Money came in with this line; it is no charge of the bank.',
  'line.no-due': 'One of the applications has no assessed fee, or does not exist.',
  'line.currency': 'The line is in {found}, the fee of {number} in {wanted}. Nothing is converted.',
  'standin.none': 'There is no simulated gateway here: it answers only where the operator asked for it.',
  'standin.nothing': 'The simulated bank has nothing of that kind yet.',
  'run.unknown': 'There is no such run.',
  'run.nobody': 'No accepted application waits for a place. Accept some in scrutiny first.',
  'run.policy': 'The policy cannot be used: {faults}. Nothing was run.',
  'run.stopped': 'The allocation was stopped. Nothing was kept.',
  'run.city-session-unknown': 'The notice knows no city "{city}" with a session "{session}". Nothing was run.',
  'run.accessible-above': '{city}, {session}: {accessible} accessible seats are more than all {seats}. Nothing was run.',
  'run.sheet-city': 'A sheet names the city "{city}", which the notice does not. Correct it first; nothing was run.',
  'run.hand-full':
    '{city}: {count, plural, one {# person is} other {# people are}} placed there by hand, more than its free seats. Release some of them or add seats; nothing was run.',
  'run.city-unknown': 'Run {serial} knows no city "{city}". Nothing was computed.',
  'run.person-unknown': 'This person is not in this run.',
  'run.reasons-not-kept': 'Run {serial} is of a time when reasons were not kept. Start a new run to have them.',
  'run.question-not-kept': 'Run {serial} is of a time when its question was not kept. Start a new run.',
  'run.other-cycle': 'The two runs are of different cycles and have no people in common.',
  'run.published': `Run {serial} was published by {by}. ${nothing}`,
  'run.not-certified':
    "Run {serial} is not certified: its cost is {cost}, its bound {bound}. Only a run proven to be the best, or by its policy's order, can be published.",
  'run.seats-missing':
    'Run {serial} counts on {seats} {kind, select, accessible {accessible } other {}}seats in {city} ({session}) that no room has{more, plural, =0 {} one {, and on seats in # more place} other {, and on seats in # more places}}. Add the rooms first; nothing was changed.',
  'run.city-full':
    '{city} is full: {count, plural, one {# person} other {# people}} of this run, fewer free seats since another run was published. Start a new run; nothing was changed.',
  'run.nobody-waits': 'Nobody of run {serial} still waits for a seat. Start a new run.',
  'run.publishing-stopped': 'Publishing was stopped. Nobody was told anything; nothing was changed.',
  'run.no-seat': '{number} got no seat in {city}.',
  'place.not-in-run': 'This person is not among those whom the run placed. Nobody was moved.',
  'place.no-seat':
    'This city has no {kind, select, accessible {accessible } other {}}seat that the run may fill. Add seats first; nobody was moved.',
  'place.closed': 'The notice closes this city to {number}. Nobody was moved.',
  'place.city-unknown': 'The notice knows no city "{city}". Nobody was moved.',
  'place.not-placeable': '{number} is {headline}; only accepted people can be placed. Nobody was moved.',
  'place.not-by-hand': `{number} is not placed by hand (any more). ${nothing}`,
  'demand.no-cities': 'The notice asks for no cities, so there is no demand to count.',
  'demand.nobody': 'Nobody has applied yet.',
  'erase.too-early': 'The data of people in {cycle} are kept until {from}. An administrator says on the page People for how long.',
  'erase.open':
    'Not all is settled in {cycle}: {cases, plural, one {# case} other {# cases}} in scrutiny, {payments, plural, one {# payment} other {# payments}} at the gateway, {refunds, plural, one {# refund} other {# refunds}} and {slips, plural, one {# deposit slip} other {# deposit slips}} under way. Settle them first.',
  'erase.released': '{cycle} was released for erasing by {by} already.',
  'print.waits': 'The machine has not read this paper yet: others wait before it. Ask again in a minute.',
  'cards.none-here': 'No card in force is for a seat at {venue}. Issue the cards first, or choose another venue.',
  'print.face': 'The face {face} is a collection, not one font.',
  'print.letter': 'No face on this server has the letter "{letter}" ({code}). Add a face before printing.',
} satisfies Partial<Record<RefusalCode, string>>

/** All messages, for the check that every language has the same keys and placeholders. */
export const refusalMessages: Readonly<Record<RefusalCode, string>> = { ...ofPages, ...ofFiles, ...sent, ...messages }

knowRefusals(messages)
