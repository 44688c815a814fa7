import type { Finding } from '../../finding/finding'
import { allowed, type FindingTeller } from './of-findings'

const p = (f: Finding, name: string) => String(f.parameters[name] ?? '')
const whenNot = (f: Finding, advice: string) => f.verdict === 'pass' ? '' : advice
const below = (f: Finding) => f.value !== null && f.bound?.min !== undefined && f.value < f.bound.min
/** The page that a value stands for, where there is more than one. */
const onPage = (f: Finding) => Number(f.parameters.of) > 1 ? `, page ${p(f, 'page')}` : ''
const pagesOf = (f: Finding) => `${p(f, 'pages').includes(',') ? 'Pages' : 'Page'} ${p(f, 'pages')}`
/** The numbers of the pages meant, where there are others. */
const whichPages = (f: Finding) => f.value === 0 || Number(f.parameters.of) <= 1 ? '' : pagesOf(f).toLowerCase()
const counted = (n: number, one: string, many: string) => n === 0 ? [] : [`${n} ${n === 1 ? one : many}`]

/** Words for the findings on documents, by their whole code. */
export const documentWords: Record<string, FindingTeller> = {
  'document.format': f => ({
    title: 'File format',
    value: p(f, 'format'),
    bound: allowed(f),
    advice: whenNot(f, `Add it as ${allowed(f)}.`),
  }),
  'document.bytes': f => ({
    title: 'File size',
    advice: whenNot(
      f,
      below(f)
        ? 'So small a file seldom holds a page that can be read. Take the pages anew with more detail.'
        : 'Put it together anew: the pages are then made smaller.',
    ),
  }),
  'document.pages': f => ({
    title: 'Pages',
    advice: whenNot(
      f,
      below(f)
        ? 'Pages are missing. Add them, both sides where both are written on.'
        : 'More pages than are wanted here. Leave out what belongs elsewhere.',
    ),
  }),
  'document.locked': () => ({ title: 'Locked against changes', value: 'opens without a password', advice: '' }),
  'document.mended': () => ({
    title: 'Repaired on opening',
    advice: 'The file is damaged; its pages were found all the same. Look whether all are there.',
  }),
  'document.attachments': f => ({
    title: 'Other files inside',
    value: p(f, 'count'),
    advice: 'Only the pages are looked at. What is attached must be added as a document of its own.',
  }),
  'document.content': f => ({
    title: 'Made of',
    value: [...counted(Number(f.parameters.text), 'page of text', 'pages of text'), ...counted(Number(f.parameters.scan), 'scan', 'scans'),
      ...counted(Number(f.parameters.drawing), 'drawn page', 'drawn pages'),
      ...counted(Number(f.parameters.blank), 'blank page', 'blank pages')].join(', '),
  }),
  'document.blankPages': f => ({
    title: f.value === 0 ? 'No blank pages' : 'Blank pages',
    value: whichPages(f),
    bound: '',
    advice: whenNot(
      f,
      `${pagesOf(f)} ${
        p(f, 'pages').includes(',') ? 'are' : 'is'
      } blank. Leave blank pages out; if something is written there, it is too faint: take it anew.`,
    ),
  }),
  'document.pageSide': f => ({
    title: 'Size of the paper',
    value: `${p(f, 'width')} × ${p(f, 'height')} mm${onPage(f)}`,
    bound: `sides ${f.bound?.min === undefined ? 'up' : f.bound.min} to ${f.bound?.max ?? '…'} mm`,
    advice: whenNot(f, 'No paper of the office has this size. Save the page as A4 or in its own size.'),
  }),
  'document.sideways': f =>
    f.verdict === 'unsure'
      ? {
        title: 'Which way the lines run',
        value: 'not told',
        bound: '',
        advice: `${pagesOf(f)}: too little is written to tell. Look whether it lies upright, and turn it if not.`,
      }
      : {
        title: f.value === 0 ? 'Lines run across the page' : 'Lying on its side',
        value: whichPages(f),
        bound: '',
        advice: whenNot(f, `${pagesOf(f)}: the lines run from top to bottom. Turn ${p(f, 'pages').includes(',') ? 'them' : 'it'}.`),
      },
  'document.onHead': f => ({
    title: 'Upside down',
    value: whichPages(f),
    advice: `${pagesOf(f)}: the letters stand on their head. Turn ${p(f, 'pages').includes(',') ? 'them' : 'it'} twice.`,
  }),
  'document.resolution': f => ({
    title: 'Fineness of the scan',
    value: `${f.value} dots an inch${onPage(f)}`,
    bound: f.bound?.min === undefined ? undefined : `from ${f.bound.min}`,
    advice: whenNot(f, 'Too coarse to read small print. Scan it finer, or take the picture from nearer.'),
  }),
  'document.letters': f => ({
    title: 'Height of small letters',
    value: `${f.value} px${onPage(f)}`,
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'Close to the limit. Judge by eye.'
        : 'The writing is too small to read. Take each page from nearer, so that it fills the picture.',
    ),
  }),
  'document.blur': f => ({
    title: 'Blur of the writing',
    value: `${Number(f.value) >= 100 ? "a letter's height or more" : `${f.value} % of a letter's height`}${onPage(f)}`,
    bound: f.bound?.max === undefined ? undefined : `at most ${f.bound.max}`,
    advice: whenNot(
      f,
      f.verdict === 'unsure'
        ? 'Close to the limit. Judge by eye.'
        : 'Out of focus or moved. Lay the paper flat, hold the camera still and take it again.',
    ),
  }),
  'document.contrast': f => ({
    title: 'Ink against paper',
    value: `${f.value} of 255${onPage(f)}`,
    advice: whenNot(
      f,
      f.verdict === 'unsure' ? 'Close to the limit. Judge by eye.' : 'Too faint to read. Take it in more light, or scan it darker.',
    ),
  }),
  'document.skew': f => ({
    title: 'Leaning of the lines',
    value: `${f.value}°${onPage(f)}`,
    bound: f.bound?.max === undefined ? undefined : `at most ${f.bound.max}°`,
    advice: whenNot(f, f.verdict === 'unsure' ? 'Close to the limit. Judge by eye.' : 'The page lies askew. Straighten it.'),
  }),
  'document.legible': f => ({
    title: 'Writing that could be measured',
    value: 'too little',
    advice: `${pagesOf(f)}: hardly any letters were found. Judge by eye whether it can be read.`,
  }),
}
