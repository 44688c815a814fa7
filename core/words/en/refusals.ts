import type { RefusalCode, RefusalParameters } from '../../refusal/codes'
import { formatMessage } from '../message'

export const nothing = 'Nothing was changed.'
const pictureAgain = 'Choose the picture again, or another; one that was there before is kept.'
const fileAgain = 'Choose the file again, or another; one that was there before is kept.'
const asJpeg = 'Save it as JPEG and add it again; one that was there before is kept.'
const onlyPictures = 'Only JPEG and PNG pictures are taken.'

/**
 * What a refusal says, in ICU message syntax. Each names the value, the bound and what to do. Those that only the office meets stand in
 * `office-refusals`.
 */
export const messages = {
  'session.none': `Sign in first. ${nothing}`,
  'session.over': 'Your session is over. Sign in again; what is on this screen stays here until then.',
  'session.foreign-origin': `The request came from another site. ${nothing}`,
  'session.foreign-page': `The request did not come from a page of this session. Load the page again. ${nothing}`,
  'session.too-many':
    'Too many tries. Wait {seconds, plural, one {# second} other {# seconds}} and try again; this one was not looked at. Who has forgotten the password asks an administrator for a link to set a new one.',
  'access.role': `Your role ({held}) may not do this ({permission}). It belongs to: {roles}. ${nothing}`,
  'access.relation': `This is not yours to see or change ({permission}). ${nothing}`,
  'input.shape': `{place}: {fault}. ${nothing}`,
  'input.value': `A value of the request is outside what can be kept (a number too large, or a character that has no place). ${nothing}`,
  'input.body': `The request has more than {most} KB; so much is never needed here. ${nothing}`,
  'input.depth': `The request is nested deeper than {most} levels. ${nothing}`,
  'input.json': `The request is not readable JSON. ${nothing}`,
  'input.text': `{place} holds a character that cannot be kept (a NUL or half of a character pair). Type it again. ${nothing}`,
  'input.header': 'What the page says of the picture cannot be read. Load the page again and send the picture again; nothing was changed.',
  'input.address': 'The address holds a broken escape sequence. The link may be cut short.',
  'input.id': '"{value}" is not an id. The link may be cut short.',
  'input.word': '"{value}" is not one of {allowed}.',
  'input.list-place': '"{value}" is not a place in the list. Begin at its start.',
  'input.upload-slow':
    'The upload came too slowly (fewer than {least} bytes a second) and was ended; nothing of it was kept. Send it again where the network is better.',
  'input.upload-broken': 'The upload broke off after {got} of {declared} bytes. Send it again; the picture before, if any, is kept.',
  'fault': 'Something failed on our side; nothing was half done. Try again; if it stays, tell the office the number {request}.',
  'office.unreachable': 'No connection to the office. Nothing on this screen is lost: try again when the connection is back.',
  'office.answer': 'The office answered {status}. Try again in a moment.',
  'sheet.not-saved': 'The last answers are not saved yet. Wait a moment and submit again.',
  'cycle.unknown': 'There is no cycle "{cycle}".',
  'code.work': 'Many codes were asked for from your network just now. Try again in a minute.',
  'code.number':
    '“{value}” {fault, select, country_wanted {could be a number of any country: write it with + and the country’s own number before it{hasRanges, select, true {, or one of {ranges}} other {}}} too_short {is too short for a number of its country} too_long {is too long for a number of its country} not_mobile {is a number that takes no short messages: give a mobile one, or an e-mail address} other {is no number that its country gives out: look at each digit}}. Nothing was sent.',
  'code.address':
    '“{value}” is no {channel, select, email {e-mail address; give one such as name@post.example} other {telephone number; give 6 to 15 digits}}.',
  'code.wait':
    'A code was sent a moment ago. Wait {seconds, plural, one {# second} other {# seconds}}, then ask for another; look among unwanted mail, too.',
  'code.too-many': '{count} codes were sent to this address within an hour. Wait an hour, or use another address.',
  'code.wrong': 'The code does not fit. {left, plural, one {One try is} other {# tries are}} left.',
  'code.over': 'This code does not hold any more: it was used, its time is over, or it was tried too often. Ask for another.',
  'application.unknown': 'There is no such application. The link may be cut short.',
  'application.no-owner': 'The application of this file is gone.',
  'dates.not-open': 'Applications open on {opens}.',
  'dates.closed': 'Applications closed on {closes}. What was typed before is kept.',
  'dates.payment-over': 'The last moment to pay was {lastPayment}. Nothing was charged.',
  'dates.correction-over': 'The correction had to be handed in before {until}. What was typed before is kept.',
  'dates.reason': `To act outside the dates of the notice, write why ({least} characters or more). ${nothing}`,
  'act.form-frozen': `{number} is {form}: its answers, images and documents are frozen. Return it for correction to open them. ${nothing}`,
  'act.form-not-submitted': `{number} is {form}, not submitted. ${nothing}`,
  'act.form-not-open': '{number} is {form} and cannot be submitted.',
  'act.form-not-withdrawn': `{number} is {form}: there is nothing to bring back. ${nothing}`,
  'act.form-over': `{number} is {form}. Bring it back first. ${nothing}`,
  'act.not-correcting': `{number} is {form}: no correction is under way. ${nothing}`,
  'act.item-closed': `"{item}" of {number} is not open for correction. Open are: {open}. ${nothing}`,
  'act.not-empty': `{number} holds answers or files. Withdraw it instead; what was typed is kept. ${nothing}`,
  'act.decided': `{number} was decided on already. ${nothing}`,
  'dates.no-correction': 'The notice lets nobody correct {number} now. An officer may, with a reason that is kept.',
  'act.correction-waits': `A correction of {number} waits for the office: accept or refuse it first. ${nothing}`,
  'act.correction-asked': `A correction of {number} was handed in already and waits. Take it back to change it. ${nothing}`,
  'act.no-correction': `No correction of {number} is at this point now. Read it again. ${nothing}`,
  'correction.item-closed': `"{item}" of {number} cannot be corrected now. What can be: {open}. ${nothing}`,
  'correction.nothing': `Nothing of {number} is different in this correction. Change an answer or add a file first.`,
  'act.paid': `Money for {number} has come in. Withdraw it, or ask for a correction. ${nothing}`,
  'act.payment-under-way': `A payment of {number} is under way. Wait until it ends. ${nothing}`,
  'act.fee-not-due': 'The fee of {number} is {fee}: there is nothing to pay.',
  'act.not-accepted': `{number} is {headline}, not accepted. ${nothing}`,
  'act.not-returned': `{number} is {headline}: no return is open. ${nothing}`,
  'act.answered': `The candidate has changed {number} since it was returned. Wait for the correction. ${nothing}`,
  'act.seat-held': '{number} holds a published seat. Take the seat back first; nothing was changed.',
  'act.reason': `This needs a reason of {least} characters or more, in words for the candidate. ${nothing}`,
  'act.unchanged': `Nothing of {number} was corrected. Close the correction unchanged instead. ${nothing}`,
  'act.changed': `{number} was changed since it was opened. Hand the correction in instead. ${nothing}`,
  'sheet.question-unknown': `The notice asks no question "{question}". Load the sheet again. ${nothing}`,
  'sheet.conflict': '{people} saved this sheet while you had it open. Nothing of yours was written yet: compare and choose.',
  'sheet.declaration': `The declaration must be accepted before the form is submitted. ${nothing}`,
  'sheet.fee-first': 'The fee of {number} is paid first; the rest of the form opens once it has come. Nothing was changed.',
  'sheet.post-early':
    '{post} can be chosen from {opens} on. Hand the form in then, or take it away and hand it in with the others; all that was typed is kept.',
  'sheet.post-closed':
    '{post} could be chosen until {closes}. Take it away and hand the form in with the others, or ask the office; all that was typed is kept.',
  'sheet.unpaid':
    'The fee of {number} is paid before the form is handed in, and not all of it has come. Pay what is due, then hand the form in again; all that was typed is kept.',
  'sheet.incomplete':
    '{count, plural, one {# answer is} other {# answers are}} missing or wrong; the first: {first}. All that was typed is kept.',
  'sheet.endorsements-missing': 'Somebody else has to answer first: {titles}. Submit again once that is there; all that was typed is kept.',
  'endorsement.enough':
    'As many were asked as are wanted: {title}, of {count, plural, one {# person} other {# people}}. Take one back to ask somebody else.',
  'endorsement.no-name': 'Fill in your name first: whoever you ask has to know who asks. Nothing was sent.',
  'endorsement.asked': '{address} has been asked for this already. Nothing was sent.',
  'endorsement.own-address': '{address} is an address of your own. A recommendation comes from somebody else: give theirs.',
  'endorsement.slow': 'Many letters went out for you just now. Ask again in {minutes, plural, one {# minute} other {# minutes}}.',
  'endorsement.too-many': 'You have asked {most} times for this. Write to the office if you need to ask once more.',
  'endorsement.not-wanted': 'By the answers on the sheet nobody is asked for this.',
  'endorsement.over': '{title} could be given until {until}. Nothing was changed.',
  'endorsement.unknown': 'Nobody of that kind was asked. Load the sheet again.',
  'endorsement.given': '{name} has answered already, so it cannot be taken back.',
  'endorsement.link':
    'This link leads nowhere: it may be cut short, or what it asked for was taken back. Ask the person who sent you here.',
  'endorsement.settled': 'This was answered already, and an answer is given once. Nothing was changed.',
  'endorsement.answer': 'Please answer: {label}',
  'endorsement.too-long': '{label}: {length} characters, and {most} are allowed. Shorten it a little.',
  'sheet.files-missing': 'Missing: {titles}. Add it and submit again; all that was typed is kept.',
  'sheet.files-waiting': '{titles}: kept, and being measured. Submit again in a moment; all that was typed is kept.',
  'sheet.posts-shut': 'Not open to this person: {posts}. The margin says why; take it off the list or correct the facts.',
  'act.slip-waits': `A deposit slip of {number} waits to be looked at already. Take it back first, or wait for the answer. ${nothing}`,
  'act.no-slip': `{number} has no deposit slip that this could be done to. ${nothing}`,
  'slip.day': `{on} is not a day on which it can have been paid in: from {from} to {to}. ${nothing}`,
  'slip.amount': `{amount} is no amount that can have been paid in. Write the amount on the slip. ${nothing}`,
  'slip.unknown': 'There is no such deposit slip.',
  'slip.same': `You have sent this very slip before. If it is for another payment, send the paper of that one. ${nothing}`,
  'fee.no-category': '{number}: no fee can be assessed without a category of the notice.',
  'fee.unbalanced': 'Ledger lines for {source} do not balance; nothing was booked.',
  'payment.not-opened': 'The payment could not be opened. Nothing was charged; try again.',
  'payment.nothing-due': 'Nothing is due for {number}: {received} of {total} is in.',
  'bill.unknown': 'There is no such bill, or it is not yours.',
  'bill.nothing-due': 'A bill is for fees that are due now; {numbers} have nothing to pay, or a payment under way. No bill was made.',
  'bill.withdrawn': 'This bill was withdrawn before.',
  'payment.together-cycles': 'What is paid together belongs to one examination; {numbers} do not. Nothing was opened.',
  'payment.not-assessed': '{number} has no assessed fee yet. Submit the form first, or have the fee assessed where it is paid before.',
  'receipt.number': '"{number}" is no number of a receipt: its check digit does not agree. Copy it once more.',
  'receipt.unknown': 'The office has issued no receipt with this number and code.',
  'slip.nothing-due': 'Nothing is due for {number}, so there is nothing to deposit.',
  'live.too-many': 'Too many pages watch for changes now. This one shows what stood when it was opened; load it again to see more.',
  'standing.unknown':
    'No application has this number with this date of birth or e-mail address. Compare both with the message that you were sent.',
  'question.too-many': '{most} of your questions wait already. Wait for an answer before you ask the next.',
  'question.about': 'This form has no part {about}.',
  'question.unknown': 'There is no such question that waits.',
  'act.nothing-owed': `Nothing is owed back to {number}. ${nothing}`,
  'payment.way':
    'This examination is not paid by {way, select, card {card} wallet {wallet} other {net banking}}. Choose one of the ways that it offers.',
  'payment.no-gateway': 'This office has no payment gateway yet, so nothing can be paid online. Ask the office how to pay.',
  'payment.gateway-silent': 'The payment gateway does not answer now. Nothing was charged by this; try again in a minute.',
  'payment.order-unknown': 'No payment has the order "{order}".',
  'file.not-kept': 'The file could not be kept. Add it again.',
  'file.slot-unknown': 'The notice {notice} asks for nothing called "{slot}". Load the page again; nothing was changed.',
  'file.unknown': 'There is no such image or document.',
  'file.own-original': 'This file was sent as it was chosen: it is its own original.',
  'file.originals-kept': 'All files that this one was made of are kept already.',
  'file.no-copy': 'There is no such image or page, or no copy of it that can be shown.',
  'file.bytes-damaged': 'The bytes of the file {hash} are not those that were kept. Restore it from a backup.',
  'file.store-unset':
    'The file lies in a store of objects that this server does not know. Set LUCID_OBJECTS_ENDPOINT and what goes with it.',
  'file.store-unreachable': 'The place where files are kept cannot be reached now. Nothing was kept or changed; try again in a moment.',
  'file.bytes-missing': 'The file {hash} is not in the store.',
  'file.erased': 'This file was erased, as what the office keeps of people is after its time.',
  'application.erased': 'What {number} told of a person was erased, as it is after its time. Nothing can be done with it any more.',
  'erase.cycle': '{cycle} is over, and what it told of people is erased. Nobody is taken in any more.',
  'card.none': '{number} has no card yet. Its open matters say what is needed.',
  'picture.damaged':
    'The picture is damaged inside and cannot be read to its end. Save it again and add it; one that was there before is kept.',
  'picture.pixels':
    'The picture has {width} × {height} pixels, {millions} million; at most {most} million are taken. Shrink it and add it again; one that was there before is kept.',
  'picture.bytes':
    'The file has {megabytes} MB ({bytes} bytes; 1 MB = 1024 × 1024); at most {most} MB are taken. Shrink the picture and add it again; one that was there before is kept.',
  'picture.none-chosen': 'Choose a picture first.',
  'picture.no-better': 'Whatever is done to this picture breaks more rules than it mends. Take it again, as the notes say.',
  'picture.too-heavy': 'Even strongly compressed the picture is over {most} KB. Choose a simpler one.',
  'document.pdf-broken-off': `The PDF breaks off before its end: the file was not copied or sent whole. ${fileAgain}`,
  'document.pdf-broken':
    'The file begins like a PDF but cannot be read. Print or save it anew as PDF, or add pictures of its pages; one that was there before is kept.',
  'document.pdf-secret':
    'The PDF opens only with a password, which the office does not have. Save a copy without one and add that; one that was there before is kept.',
  'document.pdf-nested':
    'A page of the PDF draws itself within itself, without end, and cannot be shown. Print it to a new PDF, or add pictures of its pages; one that was there before is kept.',
  'document.pdf-costly':
    'The PDF holds far more lines or picture points than a paper has, and would take too long to draw. Add a scan or pictures of its pages; one that was there before is kept.',
  'document.pdf-program':
    'The PDF carries a program (a script, or an order to start one, to send a form or to open another file), and such files are never opened. Print it to a new PDF, or add pictures of its pages; one that was there before is kept.',
  'document.pdf-empty': `The PDF has no pages. ${fileAgain}`,
  'document.too-many-pages':
    'The document has {pages} pages; at most {most} are taken. Add only the pages that are asked for; one that was there before is kept.',
  'document.too-heavy': 'Even small and strongly compressed these pages are over {most} KB together. Leave some out.',
  'browser.no-canvas': 'This browser cannot read pictures. Use another one, or send the file as it is.',
  'browser.not-looked': 'The file could not be looked at in this browser. It can still be sent: the office measures it.',
  'browser.picture-not-looked': 'The picture could not be looked at in this browser. It can still be sent: the office measures it.',
  'page.fault': 'Something failed in this page. Load it anew; what was saved is safe.',
  'picture.empty': `The file is empty (0 bytes). ${pictureAgain}`,
  'picture.gif': `The file is a GIF, whatever its name says. ${onlyPictures} ${asJpeg}`,
  'picture.pdf': `The file is a PDF, whatever its name says. A picture is wanted here: JPEG or PNG. ${pictureAgain}`,
  'picture.riff': `The file is a WebP or other RIFF file, whatever its name says. ${onlyPictures} ${asJpeg}`,
  'picture.heic':
    'The file is a HEIC or another film-like telephone format, which cannot be read here. Set the telephone\'s camera to "most compatible", or save the picture as JPEG, and add it again.',
  'picture.avif': `The file is an AVIF picture, whatever its name says. ${onlyPictures} ${asJpeg}`,
  'picture.tiff': `The file is a TIFF picture, whatever its name says. ${onlyPictures} ${asJpeg}`,
  'picture.markup':
    `The file is an SVG or other text with marks, whatever its name says. Such files may hold programs and are never opened. ${asJpeg}`,
  'picture.text': `The file is a text, not a picture, whatever its name says. ${pictureAgain}`,
  'picture.unknown': `The file is not a picture, whatever its name says. ${onlyPictures} ${pictureAgain}`,
  'picture.head':
    'The file begins like a picture but its head cannot be read. Save it again and add it; one that was there before is kept.',
  'picture.broken-off':
    'The picture breaks off before its end: the file was not copied or sent whole. Copy or take it again; one that was there before is kept.',
  'picture.moves': `The picture moves: it is several pictures in one. A single still one is wanted. ${asJpeg}`,
} satisfies Partial<Record<RefusalCode, string>>

const known: Partial<Record<RefusalCode, string>> = { ...messages }

/** Makes further sentences known: those that only the office meets come with the words of the office. */
export function knowRefusals(more: Partial<Record<RefusalCode, string>>): void {
  Object.assign(known, more)
}

/**
 * The sentence that tells a person why, and what to do; empty for a refusal that only the office meets, as long as its words are not there.
 */
export function refusalText(code: RefusalCode, parameters: RefusalParameters): string {
  const message = known[code]
  return message === undefined ? '' : formatMessage('en', message, parameters)
}
