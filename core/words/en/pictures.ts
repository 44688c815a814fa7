import type { Edit } from '../../imaging/fit'

/** What was done to a picture, as a phrase. */
export function editWords(edit: Edit): string {
  switch (edit.kind) {
    case 'turned':
      return edit.degrees === 180 ? 'turned the other way up' : `turned by 90° to the ${edit.degrees === 90 ? 'right' : 'left'}`
    case 'straightened':
      return `straightened by ${Math.abs(edit.degrees)}°, so that the eyes are level`
    case 'cropped':
      return `cut down to ${edit.kept} % of it`
    case 'wall continued':
      return `plain background continued at the edge, ${edit.share} % of the picture`
    case 'scaled':
      return `brought to ${edit.width} × ${edit.height} px`
    case 'wall evened':
      return `background evened on ${edit.share} % of the picture, by ${edit.most} of 255 levels at most`
    case 'paper whitened':
      return `paper lightened, by ${edit.most} of 255 levels at most`
    case 'put together':
      return `${edit.pages} ${edit.pages === 1 ? 'page' : 'pages'} of ${edit.files} ${edit.files === 1 ? 'file' : 'files'} put into one PDF`
    case 'page turned':
      return edit.degrees === 180
        ? `page ${edit.page} turned the other way up`
        : `page ${edit.page} turned by 90° to the ${edit.degrees === 90 ? 'right' : 'left'}`
    case 'page straightened':
      return `page ${edit.page} straightened by ${Math.abs(edit.degrees)}°`
    case 'pages redrawn':
      return `${edit.pages} ${edit.pages === 1 ? 'page' : 'pages'} of a PDF made ${
        edit.pages === 1 ? 'a picture' : 'pictures'
      }, to save size`
    case 'given up':
      return `${edit.rules} ${edit.rules === 1 ? 'rule' : 'rules'} that held before ${
        edit.rules === 1 ? 'is' : 'are'
      } broken now, for one that weighs more`
    case 'compressed':
      return `saved as JPEG of ${(edit.bytes / 1024).toFixed(1)} KB (quality ${edit.quality})`
  }
}
