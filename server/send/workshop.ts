import { stat } from 'node:fs/promises'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import yazl from 'yazl'
import type { SendTarget } from '../../contract/sends'
import { fileNameFrom } from '../../core/page/fileName'
import { onlyLane, soundingLanes } from '../../core/page/onlyLane'
import { outputPlan, piecePlan } from '../../core/page/plan'
import type { Unrecorded } from '../../core/page/story'
import { renderer } from '../../core/render/render'
import { adl, type Lane } from '../../core/send/adl'
import { mediaParts, partPlans, type MediaPart } from '../../core/send/media'
import type { Media } from '../../core/send/timeline'
import { broadcastHeader } from '../../core/sound/broadcastWave'
import { packer } from '../../core/sound/wav'
import { isMadeTone, renditionIn, tapeOf } from '../../core/tape/renditions'
import { RATE, clock } from '../../core/time'
import { SoundFiles, MediaStore } from '../media/store'
import { readPiece } from '../documents/pieces'
import { DocumentEntity } from '../entities'
import { notFound } from '../problem'
import type { Services } from '../services'
import { editListOf } from './editList'
import { laidStory } from './laid'
import type { Prepared } from './order'

/** Frames that are read at once. */
const BLOCK = 1 << 16
const BITS = 24

/**
 * A zip with which another workshop goes on: the edit list as OpenTimelineIO and as AES31, and beside it the sound that is heard,
 * with room around every cut, as WAV files. It is written while it is read.
 */
export async function workshopZip(
  services: Services,
  what: SendTarget,
  prepared: Prepared,
  name: string,
  unrecorded?: Unrecorded,
): Promise<Readable> {
  const lanes = await lanesOf(services, what, prepared, unrecorded)
  const plans = lanes.map(({ plan }) => plan)
  const lengths = new Map<string, number>()
  for (const { sound, channel } of plans.flatMap(({ strips }) => strips))
    if (!lengths.has(sound)) lengths.set(sound, (await stat(services.store.channel(sound, channel))).size / 4)
  const tapes = new Map(prepared.tapes.map((tape) => [tape.id, tape]))
  const parts = mediaParts(
    plans,
    (sound) => lengths.get(sound)!,
    (sound) => (isMadeTone(sound) ? [] : (tapes.get(tapeOf(sound))?.off ?? [])),
  )
  const names = new Map<MediaPart, string>()
  for (const part of parts) names.set(part, freeName(part, tapes.get(tapeOf(part.sound))?.name ?? 'sound', [...names.values()]))
  const nameOf = (part: MediaPart) => `media/${names.get(part)!}`

  const zip = new yazl.ZipFile()
  const made = new Date()
  const text = (path: string, content: string) => zip.addBuffer(Buffer.from(content), path, { mtime: made })
  const mediaOf = (tape: string, from: number, to: number): Media => {
    const holds = (part: MediaPart) => tapeOf(part.sound) === tape && !isMadeTone(part.sound) && part.from <= from && part.to >= to
    const found = parts.find(holds)
    const { name: title = tape, frames = 0 } = tapes.get(tape) ?? {}
    if (!found) return { name: title, url: '', start: 0, frames }
    return { name: title, url: encodeURI(nameOf(found)), start: found.from, frames: found.to - found.from }
  }
  text(
    'readme.txt',
    readme(prepared, parts, nameOf, (sound) => tapes.get(tapeOf(sound))?.name ?? sound),
  )
  text(`${name}.otio`, JSON.stringify(await editListOf(services, what, prepared, unrecorded, mediaOf), null, 1))
  text(`${name}.adl`, adl(prepared.title, made.toISOString().slice(0, 19), lanes, parts, nameOf))
  for (const part of parts) {
    const about = {
      ...LABEL,
      title: `${tapes.get(tapeOf(part.sound))?.name ?? ''} from ${clock(part.from)}`,
      date: made.toISOString().slice(0, 10),
    }
    // sound gains little by more
    zip.addReadStreamLazy(nameOf(part), { mtime: made, compressionLevel: 1 }, (done) =>
      done(null, Readable.from(waveOf(part, partPlans(part, plans), join(services.config.data, 'media'), about))),
    )
  }
  const out = zip.outputStream as Readable
  // a sound that cannot be read breaks the zip off; nobody takes half of one for a whole
  zip.on('error', (error: Error) => out.destroy(error))
  zip.end()
  return out
}

/** What sounds, a lane at a time. */
async function lanesOf(
  services: Services,
  { kind, id, output }: SendTarget,
  { factsOf, title }: Prepared,
  unrecorded?: Unrecorded,
): Promise<Lane[]> {
  const { manager } = services.database
  if (kind === 'actuality') {
    const { piece } = (await readPiece(manager, id))!
    return [{ name: piece.speaker || title, plan: piecePlan(piece, factsOf) }]
  }
  const row = await manager.findOneBy(DocumentEntity, { id, kind })
  if (row?.body.kind !== 'story') throw notFound('What was to be sent')
  const { pieces, layout } = await laidStory(services, row.body, { output, unrecorded })
  return soundingLanes(layout.file).map(({ lane, name }) => ({
    name,
    plan: outputPlan(onlyLane(layout.file, lane), layout.output, (piece) => pieces.get(piece), factsOf),
  }))
}

function freeName({ sound }: MediaPart, tape: string, taken: readonly string[]): string {
  const kind = isMadeTone(sound) ? ' room' : renditionIn(sound) === null ? '' : ' treated'
  for (let number = 1; ; number++) {
    const name = fileNameFrom('{slug}', { slug: `${tape}${kind}${number > 1 ? ` ${number}` : ''}`, client: '', date: '', length: 0 }, 'wav')
    if (!taken.includes(name)) return name
  }
}

const LABEL = {
  artist: '',
  cut: '',
  client: '',
  category: 'TAPE',
  outCue: '',
  reference: '',
  time: '00:00:00',
  airsDate: '',
  airsTime: '',
  segue: 0,
  timeReference: 0,
}

/** The bytes of a WAV file of a part. */
function* waveOf(
  part: MediaPart,
  plans: ReturnType<typeof partPlans>,
  media: string,
  label: typeof LABEL & { title: string; date: string },
) {
  const files = new SoundFiles(new MediaStore(media))
  try {
    const length = part.to - part.from
    yield broadcastHeader(length, { channels: plans.length, rate: RATE, bits: BITS }, { ...label, segue: length }, null)
    const channels = plans.map((plan) => renderer(plan, files.read))
    const pack = packer(BITS)
    let bytes = 0
    for (let at = 0; at < length; at += BLOCK) {
      const block = channels.map((channel) => {
        const run = new Float32Array(Math.min(BLOCK, length - at))
        channel.pull(at, [run])
        return run
      })
      const packed = pack(block)
      bytes += packed.length
      yield packed
    }
    if (bytes % 2) yield new Uint8Array(1)
  } finally {
    files.close()
  }
}

function readme(
  { title, plan }: Prepared,
  parts: readonly MediaPart[],
  nameOf: (part: MediaPart) => string,
  tapeName: (sound: string) => string,
): string {
  return [
    title,
    '',
    `How it is cut, for another workshop to go on from: ${clock(plan.length)}, 48 kHz.`,
    '',
    '  *.otio   the edit list as OpenTimelineIO: the stretches of tape that follow each other, crossfades, levels',
    '  *.adl    the same as AES31-3: everything that sounds, room tone too, on tracks with fades and faders',
    '  media/   what is heard of each tape, as it is heard there, with up to 10 seconds on either side; WAV, 24 bit',
    '',
    'Not in the lists: the compressor and the ceiling on the whole. Some programs ask for the folder media/ by hand.',
    '',
    ...parts.map((part) => `  ${nameOf(part)}  ${tapeName(part.sound)}, ${clock(part.from)} to ${clock(part.to)}`),
    '',
  ].join('\r\n')
}
