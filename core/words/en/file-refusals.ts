import type { RefusalCode } from '../../refusal/codes'
import { knowRefusals } from './refusals'

const pictureAgain = 'Choose the picture again, or another; one that was there before is kept.'
const fileAgain = 'Choose the file again, or another; one that was there before is kept.'
const asJpeg = 'Save it as JPEG and add it again; one that was there before is kept.'
const onlyPictures = 'Only JPEG and PNG pictures are taken.'

/** What refusals say of pictures and documents, wherever they are looked at: on the page or at the office. */
export const messages = {
  'picture.damaged':
    'The picture is damaged inside and cannot be read to its end. Save it again and add it; one that was there before is kept.',
  'picture.pixels':
    'The picture has {width} × {height} pixels, {millions} million; at most {most} million are taken. Shrink it and add it again; one that was there before is kept.',
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

knowRefusals(messages)
