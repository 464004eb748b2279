import type { Packed } from '../../contract/storyFiles'
import { outputsOf, storyHead } from '../../core/page/story'
import { offRecord, tapeHead } from '../../core/tape/tape'
import { clock } from '../../core/time'

/** What a story file says of itself to whoever opens it in ten years, with nothing but a zip program. */
export function readmeOf({ story, pieces, tapes }: Packed, made: Date, notMade: readonly string[]): string {
  const head = storyHead(story.body)
  const airs = outputsOf(story.body).map(({ name, client, airs }) => `  ${[name, client, airs].filter(Boolean).join(', ') || 'one output'}`)
  return [
    head.slug || 'Untitled',
    '',
    `A whole story of Plain Cut, put into this file on ${made.toISOString().slice(0, 10)}.`,
    'Plain Cut brings it back on any machine: Stories, Bring back a story file.',
    '',
    'Outputs:',
    ...airs,
    '',
    'What is in it:',
    '  mix/          each output as it would be sent, WAV; and its edit list, OpenTimelineIO',
    '  tapes/ID/     original: the file as it came. sound/: the same at 48 kHz, 32-bit float, one channel a file,',
    '                and what was made of it',
    '  words/        what is said on each tape, as text; what is off the record is masked there',
    '  sent/         the files that were sent; receipts.json tells when, how loud, and their hashes',
    '  documents.json  the page, the edit lists, the transcripts, and every change that was made, with its undoing',
    '  manifest.json   every file in here with its length and SHA-256',
    '',
    `Tapes (${tapes.length}):`,
    ...tapes.map(({ document, known }) => `  ${document.id}  ${tapeHead(document.body).name}, ${clock(known.frames)}, “${known.fileName}”`),
    '',
    `Pieces (${pieces.length}):`,
    ...pieces.map(({ body }) => `  ${body.slug || 'Untitled'}${body.speaker ? `, ${body.speaker}` : ''}`),
    ...(tapes.some(({ document }) => offRecord(document.body).length)
      ? ['', 'Some of it was said off the record: the tapes hold it, as they were recorded. Mind who gets this file.']
      : []),
    ...(notMade.length ? ['', 'Not in it:', ...notMade.map((line) => `  ${line}`)] : []),
    '',
  ].join('\r\n')
}
