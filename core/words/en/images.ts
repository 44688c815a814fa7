import type { Finding } from '../../finding/finding'
import { spellDate } from '../../calendar/zone'
import type { InkName } from '../../imaging/ink'
import { oneOf } from './lists'
import { type FindingTeller, p, allowed, below, whenNot } from './of-findings'
import { faceWords } from './faces'

const inkWords: Record<InkName, string> = {
  black: 'black',
  blue: 'blue',
  violet: 'violet',
  magenta: 'pink',
  red: 'red',
  brown: 'brown or orange',
  green: 'green',
  turquoise: 'turquoise',
}
const inkWord = (name: string) => Object.entries(inkWords).find(([known]) => known === name)?.[1] ?? ''
const allowedInks = (f: Finding) => oneOf(p(f, 'allowed').split(', ').map(inkWord))

/** Words for the findings on images, by what was measured. */
export const imageWords: Record<string, FindingTeller> = {
  ...faceWords,
  format: f => ({
    title: 'File format',
    value: p(f, 'format'),
    bound: allowed(f),
    advice: whenNot(f, `Save the picture as ${allowed(f)}.`),
  }),
  bytes: f => ({
    title: 'File size',
    advice: whenNot(
      f,
      below(f)
        ? 'The file is too small to hold enough detail. Save it with less compression.'
        : 'Save it with more compression or fewer pixels.',
    ),
  }),
  width: f => ({
    title: 'Width',
    advice: whenNot(f, below(f) ? 'Too few pixels across. Take the picture from nearer or scan finer.' : 'Shrink the picture.'),
  }),
  height: f => ({
    title: 'Height',
    advice: whenNot(f, below(f) ? 'Too few pixels from top to bottom. Take the picture from nearer or scan finer.' : 'Shrink the picture.'),
  }),
  aspect: f => ({
    title: 'Width to height',
    advice: whenNot(f, below(f) ? 'Too narrow. Cut some off above or below.' : 'Too wide. Cut some off at the sides.'),
  }),
  upright: f => ({
    title: f.verdict === 'fail' ? `Turned by ${f.value}°` : f.verdict === 'unsure' ? 'Upright cannot be told' : 'Upright',
    value: f.verdict === 'unsure' ? 'by eye' : '',
    bound: '0°',
    advice: f.verdict === 'fail'
      ? 'The shoulders should meet the lower edge. Turn the picture.'
      : whenNot(f, 'No edge shows the shoulders clearly. Judge by eye.'),
  }),
  sharpness: f => ({
    title: 'Sharpness in the middle',
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'Close to the limit. Judge by eye.'
        : 'Blurred, by movement or focus. Ask for a new picture with the camera held still.',
    ),
  }),
  exposure: f => ({
    title: 'Exposure, brightest tenth',
    advice: whenNot(f, 'The whole picture is too dark. Face the light and take it again.'),
  }),
  burntOut: f => ({ title: 'Burnt out to white', advice: whenNot(f, 'Too much light on the face. Move out of the direct light.') }),
  contrast: f => ({
    title: f.about === 'signature' ? 'Ink against paper' : 'Contrast',
    advice: whenNot(
      f,
      f.about === 'signature'
        ? 'Too faint to print. Sign with a dark pen on white paper.'
        : below(f)
        ? 'Flat, as in fog. Use more light from the side of the camera.'
        : 'Hard light and shadow. Use softer light.',
    ),
  }),
  backgroundEvenness: f => ({
    title: 'Evenness of the background',
    advice: whenNot(f, f.verdict === 'unsure' ? 'Close to the limit. Judge by eye.' : 'Stand before a plain wall, a step away from it.'),
  }),
  boxShare: f => ({
    title: 'Signature within the picture',
    advice: whenNot(
      f,
      below(f)
        ? 'The signature is small in the picture. Cut the picture close around it.'
        : 'The signature fills the picture to its edges. Leave a little paper around it.',
    ),
  }),
  pieces: f => ({
    title: 'Pieces of ink',
    value: `${f.value} pieces`,
    bound: f.bound?.max === undefined ? undefined : `at most ${f.bound.max}`,
    advice: whenNot(f, 'So many pieces are writing or print, not a signature. Sign on plain white paper.'),
  }),
  strokeWidth: f => ({
    title: 'Width of the strokes',
    advice: whenNot(
      f,
      below(f)
        ? 'The line is too thin to print. Sign with a stronger pen.'
        : 'No pen draws so wide: a block, a stamp or another picture. Sign with a pen.',
    ),
  }),
  cutOff: f => ({
    title: 'Ink that runs off the picture',
    advice: whenNot(f, 'Part of the signature is cut off. Take the picture again with paper on all sides.'),
  }),
  paper: f => ({ title: 'Lightness of the paper', advice: whenNot(f, 'The paper looks grey. Use white paper and more light.') }),
  shade: f => ({
    title: 'Shadow on the paper',
    advice: whenNot(f, 'A shadow lies on the paper. Hold the light so that no hand or telephone stands before it.'),
  }),
  rulings: f => ({
    title: 'Lines across the paper',
    value: f.value === 0 ? (f.verdict === 'pass' ? 'none' : 'perhaps one') : String(f.value),
    bound: '',
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'A line seems to run across. Judge by eye.'
        : 'The paper is ruled, squared or boxed. Sign on plain white paper.',
    ),
  }),
  inkColour: f => ({
    title: 'Colour of the ink',
    value: f.verdict === 'pass' ? '' : `${f.value} % other, most of it ${inkWord(p(f, 'most'))}`,
    bound: allowedInks(f),
    advice: whenNot(
      f,
      f.verdict === 'unsure' ? 'Part of the ink looks different. Judge by eye.' : `Sign with a pen that writes ${allowedInks(f)}.`,
    ),
  }),
  strange: f => ({
    title: 'Neither paper nor ink',
    advice: whenNot(
      f,
      'Something else lies in the picture, such as a finger or the table. Take the paper alone, or cut the picture closer.',
    ),
  }),
  parts: f => ({
    title: 'Parts that lie apart',
    value: String(f.value),
    bound: f.bound?.max === undefined ? undefined : `at most ${f.bound.max}`,
    advice: whenNot(f, 'Perhaps two signatures. Judge by eye.'),
  }),
  enclosed: f => ({
    title: 'Enclosed by one loop',
    value: `${f.value} % of its box`,
    advice: whenNot(f, 'So large a loop may be a drawing, a stamp or a frame. Judge by eye.'),
  }),
  inkAspect: f => ({
    title: f.verdict === 'fail' ? 'Lying on its side' : 'Width to height of the ink',
    advice: whenNot(
      f,
      f.verdict === 'fail'
        ? 'The signature runs up or down the picture. Turn it.'
        : 'Signatures are wider than high: a drawing, or two signatures? Judge by eye.',
    ),
  }),
  saturation: f => ({
    title: 'Colour of the picture',
    advice: whenNot(
      f,
      f.about === 'signature'
        ? 'Too colourful for pen on paper: is it another picture? Add the signature here.'
        : 'The picture is grey. Add one in colour.',
    ),
  }),
  background: f => ({
    title: 'Colour of the background',
    value: `${p(f, 'colour')}, ${f.value} from ${p(f, 'nearest')}`,
    bound: f.bound?.max === undefined ? undefined : `at most ${f.bound.max}`,
    advice: whenNot(f, f.verdict === 'unsure' ? 'Close to the limit. Judge by eye.' : `Stand before a wall that is ${allowed(f)}.`),
  }),
  sideLight: f => ({
    title: 'Light from one side',
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'Close to the limit. Judge by eye.'
        : 'One half of the face is much darker. Turn towards the light and take it again.',
    ),
  }),
  inkShare: f => ({
    title: 'Ink on the paper',
    advice: whenNot(
      f,
      f.parameters.blank
        ? 'The paper is blank. Take a picture of the signature.'
        : below(f)
        ? 'The signature is tiny. Cut the picture close around it.'
        : 'Too much is dark: a block, a shadow or another picture. Sign on white paper.',
    ),
  }),
  colourModel: f => ({
    title: 'Colours of the file',
    value: p(f, 'colour') === 'cmyk' ? 'CMYK, made for print' : `${p(f, 'depth')} bits a channel`,
    bound: 'RGB or grey, 8 bits a channel',
    advice: 'Screens and printers of the office show other colours than yours. Save the picture as an ordinary JPEG.',
  }),
  taken: f => ({
    title: 'When it was taken',
    value: spellDate(p(f, 'taken')),
    bound: `${spellDate(p(f, 'from'))} or later`,
    advice: whenNot(f, 'By the clock of the camera it is older than the notice asks for. Judge by eye, or ask for a new one.'),
  }),
  embedded: f => ({
    title: 'Further pictures inside the file',
    value: p(f, 'count'),
    advice: 'A small copy or a second shot, as cameras add it. It is left out of what the office shows and prints.',
  }),
  unmeasured: f => ({
    title: 'Could not be measured',
    advice: `${p(f, 'attempts')} looks at it failed on our side. Judge by eye, or ask for another picture.`,
  }),
  backgroundShadow: f => ({
    title: 'Shadow on the background',
    value: `${f.value} % darker`,
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'Close to the limit. Judge by eye.'
        : 'A shadow lies on the wall. Step away from it, or let light fall from both sides.',
    ),
  }),
  bars: f => ({
    title: 'Bars at the edges',
    advice: whenNot(f, 'Flat bars run along the edges, as in a picture taken of a screen. Cut them off, or choose the picture itself.'),
  }),
  blockiness: f => ({
    title: 'Traces of compression',
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'Close to the limit. Judge by eye.'
        : 'Compressed until it fell into blocks. Choose the picture as the camera took it.',
    ),
  }),
  detail: f => ({
    title: 'Detail for its pixels',
    value: f.value === null ? '' : `${f.value} % of the pixels across`,
    advice: whenNot(f, 'The picture was enlarged or is blurred: it holds less than its pixels say. Choose the one it was made from.'),
  }),
  printArea: f => ({
    title: 'Print on the paper',
    advice: whenNot(
      f,
      below(f)
        ? 'Hardly any print. Press the whole ball of the thumb onto the paper.'
        : 'The print fills the picture to its edges. Leave some paper around it.',
    ),
  }),
  ridges: f => ({
    title: 'Ridges that can be seen',
    value: `${f.value} % of the print`,
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'Close to the limit. Judge by eye.'
        : 'No ridges can be told in the print. Take less ink, press without turning, and take the picture in focus.',
    ),
  }),
  smudge: f => ({
    title: 'Solid ink in the print',
    value: `${f.value} % of the print`,
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'Close to the limit. Judge by eye.'
        : 'Too much ink, or the thumb slipped. Wipe some off and press once, straight down.',
    ),
  }),
}
