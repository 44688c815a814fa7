import { below, lean, p, whenNot, type FindingTeller } from './of-findings'

/** Words for the findings on the face in a photograph. */
export const faceWords: Record<string, FindingTeller> = {
  faces: f => ({
    title: f.value === 0 ? 'No face found' : f.value === 1 ? (f.verdict === 'pass' ? 'One face' : 'Perhaps a face') : `${f.value} faces`,
    value: f.value === 0
      ? ''
      : `detector ${p(f, 'score')} % sure${f.value !== null && f.value > 1 ? `, ${p(f, 'second')} % of the second` : ''}`,
    bound: '1 face',
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'The detector is not sure. Judge by eye.'
        : f.value === 0
        ? 'A photograph of the face is wanted, from the front, with nothing before it.'
        : 'Only the candidate may be in the picture. Cut the others off or take it again.',
    ),
  }),
  headHeight: f => ({
    title: 'Height of the head',
    value: `${f.value} % of the picture`,
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'Close to the limit. Judge by eye.'
        : below(f)
        ? 'The head is small. Cut the picture closer, or take it from nearer.'
        : 'The head is large. Leave more room around it, or take it from further away.',
    ),
  }),
  crownRoom: f => ({
    title: 'Room above the head',
    value: `${f.value} % of the picture`,
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'The crown is an estimate and close to the edge. Judge by eye.'
        : below(f)
        ? 'The crown is cut off, or nearly. Take the picture with wall above the head.'
        : 'Much room above the head. Cut some off.',
    ),
  }),
  eyeLine: f => ({
    title: 'Line of the eyes',
    value: `${f.value} % from the top`,
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'Close to the limit. Judge by eye.'
        : below(f)
        ? 'The eyes are high in the picture. Cut some off below.'
        : 'The eyes are low in the picture. Cut some off above.',
    ),
  }),
  offCentre: f => ({
    title: 'Off the middle',
    value: `${f.value} % of the width`,
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'Close to the limit. Judge by eye.'
        : 'The face is to one side. Cut the picture so that the nose is in the middle.',
    ),
  }),
  eyeDistance: f => ({
    title: 'From eye to eye',
    advice: whenNot(f, below(f) ? 'Too few pixels on the face to know a person by. Take the picture from nearer.' : 'Shrink the picture.'),
  }),
  roll: f => ({
    title: 'Leaning of the head',
    value: lean(f, 'to the right', 'to the left'),
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'Close to the limit. Judge by eye.'
        : 'The eyes are not level. Straighten the picture or hold the head upright.',
    ),
  }),
  yaw: f => ({
    title: 'Turned aside',
    value: lean(f, 'to one side', 'to the other'),
    advice: whenNot(f, f.verdict === 'unsure' ? 'An estimate close to the limit. Judge by eye.' : 'Look straight into the camera.'),
  }),
  pitch: f => ({
    title: 'Chin up or down',
    value: lean(f, 'up', 'down'),
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'An estimate close to the limit. Judge by eye.'
        : 'Hold the camera at the height of the eyes and look straight into it.',
    ),
  }),
  eyesOpen: f => ({
    title: 'Opening of the eyes',
    value: `${f.value} % of their width`,
    advice: whenNot(
      f,
      f.verdict === 'unsure' ? 'Perhaps closed or narrowed. Judge by eye.' : 'The eyes seem closed. Take the picture with both open.',
    ),
  }),
  eyesUncovered: f => ({
    title: 'Light round the eyes',
    value: `${f.value} % of the cheeks`,
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'Dark round the eyes. Judge by eye whether anything covers them.'
        : 'Something dark covers the eyes. Take off the glasses, or turn the light to the face.',
    ),
  }),
  redEyes: f => ({
    title: 'Red in the eyes',
    value: `${f.value} % of the pupils`,
    advice: whenNot(
      f,
      f.verdict === 'unsure' ? 'Close to the limit. Judge by eye.' : 'The flash made the eyes red. Take the picture without it.',
    ),
  }),
  blur: f => ({
    title: 'Blur of the face',
    value: `edges ${f.value} % of its width`,
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'Slightly soft. Judge by eye.'
        : 'Blurred, by movement or focus. Take it again with the camera held still, in more light.',
    ),
  }),
}
