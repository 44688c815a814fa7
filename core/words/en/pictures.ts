import type { ContainerRefusal } from '../../imaging/container'
import type { Edit } from '../../imaging/fit'

const anew = 'Choose the picture again, or another; one that was there before is kept.'
const asJpeg = 'Save it as JPEG and add it again; one that was there before is kept.'

/** Why a file is not taken as a picture, and what to do. */
export const refusalWords: Record<ContainerRefusal, string> = {
  'empty': `The file is empty (0 bytes). ${anew}`,
  'gif': `The file is a GIF, whatever its name says. Only JPEG and PNG pictures are taken. ${asJpeg}`,
  'pdf': `The file is a PDF, whatever its name says. A picture is wanted here: JPEG or PNG. ${anew}`,
  'riff': `The file is a WebP or other RIFF file, whatever its name says. Only JPEG and PNG pictures are taken. ${asJpeg}`,
  'heic': `The file is a HEIC or another film-like telephone format, which cannot be read here. Set the telephone's camera to "most compatible", or save the picture as JPEG, and add it again.`,
  'avif': `The file is an AVIF picture, whatever its name says. Only JPEG and PNG pictures are taken. ${asJpeg}`,
  'tiff': `The file is a TIFF picture, whatever its name says. Only JPEG and PNG pictures are taken. ${asJpeg}`,
  'markup': `The file is an SVG or other text with marks, whatever its name says. Such files may hold programs and are never opened. ${asJpeg}`,
  'text': `The file is a text, not a picture, whatever its name says. ${anew}`,
  'unknown': `The file is not a picture, whatever its name says. Only JPEG and PNG pictures are taken. ${anew}`,
  'head': `The file begins like a picture but its head cannot be read. Save it anew and add it again; one that was there before is kept.`,
  'broken-off': `The picture breaks off before its end: the file was not copied or sent whole. Copy or take it again; one that was there before is kept.`,
  'moves': `The picture moves: it is several pictures in one. A single still one is wanted. ${asJpeg}`,
}

/** A picture whose bytes are damaged inside: found only when it is decoded. */
export const damagedWords = `The picture is damaged inside and cannot be read to its end. Save it anew and add it again; one that was there before is kept.`

/** Bounds that protect the office, not the notice's. */
export function tooManyPixelsWords(width: number, height: number, limit: number): string {
  return `The picture has ${width} × ${height} pixels, ${(width * height / 1e6).toFixed(0)} million; at most ${limit / 1e6} million are taken. Shrink it and add it again; one that was there before is kept.`
}
export function tooManyBytesWords(bytes: number, limit: number): string {
  return `The file has ${(bytes / 1024 / 1024).toFixed(1)} MB (${bytes.toLocaleString('en-GB')} bytes; 1 MB = 1024 × 1024); at most ${limit / 1024 / 1024} MB are taken. Shrink the picture and add it again; one that was there before is kept.`
}

/** What was done to a picture, as a phrase. */
export function editWords(edit: Edit): string {
  switch (edit.kind) {
    case 'turned': return edit.degrees === 180 ? 'turned the other way up' : `turned by 90° to the ${edit.degrees === 90 ? 'right' : 'left'}`
    case 'straightened': return `straightened by ${Math.abs(edit.degrees)}°, so that the eyes are level`
    case 'cropped': return `cut down to ${edit.kept} % of it`
    case 'wall continued': return `plain background continued at the edge, ${edit.share} % of the picture`
    case 'scaled': return `brought to ${edit.width} × ${edit.height} px`
    case 'wall evened': return `background evened on ${edit.share} % of the picture, by ${edit.most} of 255 levels at most`
    case 'paper whitened': return `paper lightened, by ${edit.most} of 255 levels at most`
    case 'put together': return `${edit.pages} ${edit.pages === 1 ? 'page' : 'pages'} of ${edit.files} ${edit.files === 1 ? 'file' : 'files'} put into one PDF`
    case 'page turned': return edit.degrees === 180 ? `page ${edit.page} turned the other way up` : `page ${edit.page} turned by 90° to the ${edit.degrees === 90 ? 'right' : 'left'}`
    case 'page straightened': return `page ${edit.page} straightened by ${Math.abs(edit.degrees)}°`
    case 'pages redrawn': return `${edit.pages} ${edit.pages === 1 ? 'page' : 'pages'} of a PDF made ${edit.pages === 1 ? 'a picture' : 'pictures'}, to save size`
    case 'compressed': return `saved as JPEG of ${(edit.bytes / 1024).toFixed(1)} KB (quality ${edit.quality})`
  }
}
