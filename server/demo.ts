import { randomUUID } from 'node:crypto'
import { createReadStream, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { addHours, addMinutes, format, set } from 'date-fns'
import { withEditsBeside } from '../core/cuts/oneEdit'
import { takeOut } from '../core/edits/acts'
import { actualityType, type Actuality } from '../core/edits/actuality'
import { fromTape } from '../core/edits/editList'
import { pieceWords } from '../core/edits/pieceWords'
import { pull } from '../core/edits/pull'
import { applyAll } from '../core/steps/document'
import { USUAL_DIP } from '../core/page/dips'
import { newStory, type Block, type Hanger, type Lane, type Output, type StoryDocument } from '../core/page/story'
import type { Side, TapeDocument, TapeRecord } from '../core/tape/tape'
import type { Word } from '../core/tape/words'
import { toFrames, type Stretch } from '../core/time'
import { insertPiece } from './documents/pieces'
import { insertDemoBoard } from './demoBoard'
import { DocumentEntity, TapeEntity } from './entities'
import { takeIn } from './intake/intake'
import { tend } from './intake/tend'
import type { Services } from './services'

/** The story of the night ferry, loaded into an empty Plain Cut. Everything in it is made up. */

const top = join(import.meta.dirname, '..', 'demo')

interface DemoTape {
  id: string
  file: string
  truth?: string
  /** What the recogniser heard, where nobody has listened through yet. */
  heard?: string
  name: string
  speaker: string
  role: string
  sides: Side[]
  tags: string[]
}

const mono: Side[] = [{ name: '', channels: [0] }]
const stereo: Side[] = [{ name: '', channels: [0, 1] }]
const twoSides: Side[] = [
  { name: 'Tamsin Roe', channels: [0] },
  { name: 'Maren Ferris', channels: [1] },
]

const QUAY: DemoTape = {
  id: '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a01',
  file: 'tape-043.mp3',
  truth: 'deckhand',
  name: 'Deckhand, on the quay',
  speaker: 'Piet Aldous',
  role: 'deckhand',
  sides: mono,
  tags: ['quay', 'crew'],
}
const COUNCIL: DemoTape = {
  id: '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a02',
  file: 'call-council-2.flac',
  truth: 'officer',
  heard: 'officer',
  name: 'Council, by phone',
  speaker: 'Maren Ferris',
  role: 'transport officer',
  sides: twoSides,
  tags: ['council'],
}
const TRACKS: DemoTape = {
  id: '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a03',
  file: 'voice-tracks.flac',
  truth: 'tracks',
  name: 'Voice tracks',
  speaker: 'Tamsin Roe',
  role: 'reporter',
  sides: mono,
  tags: ['voice'],
}
const AMBIENCE: DemoTape = {
  id: '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a04',
  file: 'quay-at-night.ogg',
  name: 'Quay at night',
  speaker: '',
  role: 'ambience',
  sides: stereo,
  tags: ['quay', 'ambience'],
}
const BED: DemoTape = {
  id: '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a05',
  file: 'bed-low-water.mp3',
  name: 'Bed, low water',
  speaker: '',
  role: 'music',
  sides: stereo,
  tags: ['music'],
}

/** Names that no recogniser knows. */
const TERMS = [
  { text: 'Brackle', spoken: '' },
  { text: 'Piet Aldous', spoken: 'peet all dus' },
  { text: 'Maren Ferris', spoken: '' },
  { text: 'Tamsin Roe', spoken: 'tamsin row' },
]

const STORY = '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2b01'

interface Listed {
  start: number
  end: number
  text: string
  what?: string
  speaker?: string
  sure?: number
}

const listed = (folder: string, name: string): Word[] =>
  (JSON.parse(readFileSync(join(top, folder, `${name}.json`), 'utf8')) as Listed[])
    .filter((one) => one.what !== 'pause')
    .map(({ start, end, text, what, speaker, sure }): Word => ({
      text,
      from: toFrames(start),
      to: toFrames(end),
      ...(speaker ? { speaker } : {}),
      ...(what ? { what: what as 'filler' | 'noise' } : {}),
      ...(sure === undefined ? { checked: true as const } : { sure }),
    }))

/** Somebody has listened through and put right what was recognised; on a tape with a guess, no further than this. */
const LISTENED = toFrames(22)

function wordsOf(tape: DemoTape): Word[] {
  if (!tape.truth) return []
  const words = listed('truth', tape.truth)
  return tape.heard
    ? [...words.filter(({ from }) => from < LISTENED), ...listed('heard', tape.heard).filter(({ from }) => from >= LISTENED)]
    : words
}

/** As 2026-11-25, where this machine is. */
const today = (): string => format(new Date(), 'yyyy-MM-dd')

/** An air time at that minute of an hour, at least so many minutes from now, with this machine's zone. */
function airsIn(least: number, minute: number): string {
  const soonest = addMinutes(new Date(), least)
  const at = set(soonest, { minutes: minute, seconds: 0, milliseconds: 0 })
  return format(at < soonest ? addHours(at, 1) : at, "yyyy-MM-dd'T'HH:mmxxx")
}

/** The place of a run of words, as text; the `nth` time that it is said. */
function find(words: readonly Word[], text: string, nth = 1): Stretch {
  const wanted = text.split(' ')
  for (let i = 0; i + wanted.length <= words.length; i++)
    if (wanted.every((word, k) => words[i + k].text === word) && --nth === 0)
      return { from: words[i].from, to: words[i + wanted.length - 1].to }
  throw new Error(`the demo's tape does not say “${text}”`)
}

const from = (a: Stretch, b: Stretch): Stretch => ({ from: a.from, to: b.to })

/** Pulls a piece and takes stretches of tape out of it. */
function piece(tape: DemoTape, length: number, stretch: Stretch, out: readonly Stretch[], slug: string): Actuality {
  let document = pull({
    tape: tape.id,
    tapeLength: length,
    stretch,
    struck: [],
    words: wordsOf(tape),
    story: STORY,
    speaker: tape.speaker,
    role: tape.role,
    sides: tape.sides,
  })!
  document = { ...document, slug }
  const words = wordsOf(tape)
  for (const gone of out) {
    const range = { from: fromTape(document.spans, tape.id, gone.from)!, to: fromTape(document.spans, tape.id, gone.to)! }
    document = applyAll(
      actualityType,
      document,
      takeOut(
        document,
        withEditsBeside(
          document.spans,
          range,
          pieceWords(document.spans, () => words),
        ),
      ),
    )
  }
  return document
}

/** Up to where the next word begins, so that what is taken out takes its pause along. */
function toNext(words: readonly Word[], stretch: Stretch): Stretch {
  const next = words.find((word) => word.from >= stretch.to)
  return { from: stretch.from, to: next ? next.from - toFrames(0.03) : stretch.to }
}

/** Waits for a tape to be here in full: whoever was called by its coming may tend to it instead of us. */
async function arrived({ database: { manager } }: Services, id: string): Promise<void> {
  while (await manager.existsBy(TapeEntity, { id, state: 'arriving' })) await new Promise((done) => setTimeout(done, 50))
}

export async function loadDemoOnce(services: Services): Promise<void> {
  const { manager } = services.database
  if (await manager.count(DocumentEntity)) return
  for (const tape of [BED, AMBIENCE, TRACKS, COUNCIL, QUAY]) {
    const { id, file, truth: _, heard: __, ...known } = tape
    const words = wordsOf(tape)
    await takeIn(services, createReadStream(join(top, 'tapes', file)), file, {
      id,
      day: today(),
      stories: [STORY],
      ...known,
      ...(words.length ? { words } : {}),
    })
    await tend(services, { id })
    await arrived(services, id)
  }
  const length = async (tape: DemoTape) => (await manager.findOneByOrFail(TapeEntity, { id: tape.id })).frames
  const quay = wordsOf(QUAY)
  const tracks = wordsOf(TRACKS)

  const nobody = piece(
    QUAY,
    await length(QUAY),
    from(find(quay, 'I remember the first night'), find(quay, 'tie her up.')),
    [
      toNext(quay, find(quay, 'And I mean the office had known since the Friday, so.')),
      toNext(quay, find(quay, 'with the,')),
      toNext(quay, from(find(quay, 'um,', 2), find(quay, 'um,', 2))),
    ],
    'Nobody told us',
  )
  const till = piece(
    QUAY,
    await length(QUAY),
    from(find(quay, 'my mother is'), find(quay, 'till six.')),
    [toNext(quay, find(quay, 'there is no boat.')), toNext(quay, find(quay, 'There is'))],
    'No boat till six',
  )
  const line1 = piece(
    TRACKS,
    await length(TRACKS),
    from(find(tracks, 'Twenty to twelve,', 2), find(tracks, 'at the ropes.')),
    [],
    'Line 1, the ropes',
  )
  const line2 = piece(
    TRACKS,
    await length(TRACKS),
    from(find(tracks, 'The company says'), find(tracks, 'across the water.')),
    [toNext(tracks, from(find(tracks, 'Aldous counts differently,'), find(tracks, 'shift.')))],
    'Line 2, counting',
  )
  const line3 = piece(
    TRACKS,
    await length(TRACKS),
    from(find(tracks, "The council's answer", 2), find(tracks, 'carries two.', 2)),
    [],
    'Line 3, the answer',
  )
  const signOff = piece(
    TRACKS,
    await length(TRACKS),
    from(find(tracks, 'For Brackle Sound,'), find(tracks, 'on the quay.')),
    [],
    'Sign-off',
  )

  const made = { nobody, till, line1, line2, line3, signOff }
  const ids = Object.fromEntries(Object.keys(made).map((name) => [name, randomUUID()])) as Record<keyof typeof made, string>
  for (const name of Object.keys(made) as (keyof typeof made)[]) await insertPiece(manager, ids[name], made[name])
  const put = (id: string, body: StoryDocument) =>
    manager.insert(DocumentEntity, { id, kind: 'story', revision: 0, aside: false, body: body as object })

  const block = (order: string, kind: Block['kind'], fields: Partial<Block>): Block => ({
    id: randomUUID(),
    kind,
    order,
    aside: false,
    text: '',
    reader: '',
    piece: null,
    ...fields,
  })
  const blocks: Block[] = [
    block('a0', 'intro', {
      text: 'The last boat to Brackle left at midnight for forty years. Since Monday it does not leave at all. From the quay, Tamsin Roe.',
    }),
    block('a1', 'copy', {
      reader: 'Tamsin Roe',
      piece: ids.line1,
      // the quay is heard by itself first
      gap: toFrames(2.5),
      text: 'Twenty to twelve, and the ticket office is dark. On the first night without a sailing, deckhand Piet Aldous was at the ropes.',
    }),
    block('a2', 'actuality', { piece: ids.nobody }),
    block('a3', 'copy', {
      reader: 'Tamsin Roe',
      piece: ids.line2,
      text:
        'The company says eleven passengers a night do not pay for fuel. Aldous counts differently: nurses, the fish ' +
        'plant’s late shift, and his own mother across the water.',
    }),
    block('a4', 'actuality', { piece: ids.till }),
    block('a5', 'copy', {
      reader: 'Tamsin Roe',
      piece: ids.line3,
      text: 'The council’s answer is eleven minutes long, and it flies. But the helicopter carries two.',
    }),
    block('a6', 'soc', { reader: 'Tamsin Roe', piece: ids.signOff, text: 'For Brackle Sound, this is Tamsin Roe, on the quay.' }),
    block('a7', 'copy', {
      reader: 'Tamsin Roe',
      aside: true,
      text: 'The tide table on the wall still shows the sailing of ten past twelve.',
    }),
  ]
  const lane = (order: string, name: string, colour: Lane['colour']): Lane => ({
    id: randomUUID(),
    kind: 'lane',
    name,
    colour,
    order,
    locked: false,
    muted: false,
    gain: 0,
  })
  const [ambience, music] = [lane('a0', 'Ambience', 'ink'), lane('a1', 'Music', 'voice')]
  const [, line, told, , , council, out] = blocks
  /** The quay comes up under the host, goes under the first line and is out after the deckhand; a bed comes in before the council. */
  const under: Hanger[] = [
    {
      id: randomUUID(),
      kind: 'hanger',
      lane: ambience.id,
      aside: false,
      plays: { tape: AMBIENCE.id, from: 0, to: await length(AMBIENCE) },
      start: { block: line.id, at: 'start', offset: toFrames(-3) },
      end: { block: told.id, at: 'end', offset: toFrames(1.5) },
      gain: 15,
      dip: { ...USUAL_DIP, dB: -4, back: toFrames(0.8), hold: toFrames(1.5) },
      fadeIn: toFrames(1),
      fadeOut: toFrames(1.5),
      goesOn: true,
    },
    {
      id: randomUUID(),
      kind: 'hanger',
      lane: music.id,
      aside: false,
      plays: { tape: BED.id, from: 0, to: await length(BED) },
      start: { block: council.id, at: 'start', offset: toFrames(-2) },
      end: { block: out.id, at: 'end', offset: 0 },
      gain: 5.5,
      dip: USUAL_DIP,
      fadeOut: toFrames(2.5),
    },
  ]
  const ferry = newStory({ slug: 'The night ferry', terms: TERMS }, output(airsIn(70, 52), toFrames(55)), [
    ...blocks,
    ambience,
    music,
    ...under,
  ])
  await put(STORY, ferry)
  await put(
    randomUUID(),
    newStory({ slug: 'School roof, day three' }, output(airsIn(88, 10), toFrames(90)), [
      block('a0', 'intro', {
        text: 'Pupils at the island school spent a third day in the fish hall, while slates are found for the roof.',
      }),
      block('a1', 'copy', {
        reader: 'Ola Venn',
        text: 'The benches smell of herring, says the head teacher, but the stove works, and nobody has asked to go home.',
      }),
    ]),
  )
  await put(randomUUID(), newStory({ slug: 'Kelp prices' }, output('', toFrames(45))))
  await insertDemoBoard(manager, Object.values(ids))

  const marks: TapeRecord[] = [
    { id: randomUUID(), kind: 'mark', at: find(quay, 'Nurses coming off').from, text: 'crowd on quay, good detail' },
    { id: randomUUID(), kind: 'mark', at: find(quay, 'It is only eleven').from, text: 'helicopter claim: check with council' },
    { id: randomUUID(), kind: 'mark', at: find(quay, 'a hundred and').from, text: 'his own count' },
    { id: randomUUID(), kind: 'strike', ...from(find(quay, '(cough)'), find(quay, 'Sorry.')) },
  ]
  const document = (await manager.findOneByOrFail(DocumentEntity, { id: QUAY.id })).body as TapeDocument
  const body = { ...document, records: { ...document.records, ...Object.fromEntries(marks.map((mark) => [mark.id, mark])) } }
  await manager.update(DocumentEntity, { id: QUAY.id }, { body: body as object })
}

const output = (airs: string, slot: number): Partial<Output> & Pick<Output, 'id'> => ({
  id: randomUUID(),
  airs,
  slot,
  client: 'Brackle Sound',
})
