import { join } from 'node:path'
import { mkdir } from 'node:fs/promises'
import { README, type Packed } from '../../contract/storyFiles'
import type { PackedReceipt } from '../../contract/storyReceipts'
import type { SendOrder } from '../../contract/sends'
import { outputsOf, storyHead } from '../../core/page/story'
import { Refusal } from '../problem'
import { editListOf } from '../send/editList'
import { labelOf } from '../send/label'
import { prepare } from '../send/order'
import type { SendThreadOrder } from '../send/thread'
import type { WriteOrder, WriteReport } from '../send/write'
import type { Services } from '../services'
import { runThread } from '../thread'
import { gather } from './gather'
import { filesIn, pack, sizeOf, type Part } from './pack'
import { readmeOf } from './readme'
import { wordsFile } from './wordsFile'

/** The mix is rendered before the rest is packed: so much of the progress is its. */
const MIX = 0.3

/** Puts a whole story into a file. `folder`: for what is made on the way; gives the name it should have. */
export async function takeOut(
  services: Services,
  { id, keeping }: { id: string; keeping: string },
  path: string,
  folder: string,
  note: (progress: number) => void,
  signal: AbortSignal,
): Promise<string> {
  const { packed, receipts } = await gather(services, id)
  await mkdir(folder, { recursive: true })
  const { parts: mixes, notMade } = await mixesOf(services, packed, keeping, folder, (share) => note(share * MIX), signal)
  const { slug } = storyHead(packed.story.body)
  const parts: Part[] = [
    { path: README, content: { text: readmeOf(packed, new Date(), notMade) } },
    { path: 'documents.json', content: { text: JSON.stringify(packed) } },
    { path: 'receipts.json', content: { text: JSON.stringify(receipts) } },
    ...mixes,
    ...(await tapeParts(services, packed)),
    ...receipts.flatMap((receipt) => sentParts(services, receipt)),
  ]
  const whole = Math.max(1, await sizeOf(parts))
  let done = 0
  const moved = (bytes: number) => note(MIX + ((done += bytes) / whole) * (1 - MIX))
  await pack(path, { story: id, slug }, parts, moved, signal)
  return slug
}

function sentParts({ store }: Services, { id, fileName, script }: PackedReceipt): Part[] {
  const parts: Part[] = [{ path: `sent/${id}/${fileName}`, content: { file: store.sent(id) } }]
  if (script) parts.push({ path: `sent/${id}/${script.fileName}`, content: { file: store.script(id) } })
  return parts
}

async function tapeParts({ store }: Services, { tapes }: Packed): Promise<Part[]> {
  const parts = await Promise.all(
    tapes.map(async (tape): Promise<Part[]> => {
      const { id } = tape.document
      const folder = store.tape(id)
      // what patches are looked for in is made again when first one is sought
      const names = await filesIn(folder, /^(original$|(.+-)?looks-)/)
      const words = wordsFile(tape)
      return [
        { path: tape.original, content: { file: store.original(id) } },
        ...names.map((name): Part => ({ path: `tapes/${id}/sound/${name}`, content: { file: join(folder, name) } })),
        ...(words ? [{ path: `words/${id}.txt`, content: { text: words } }] : []),
      ]
    }),
  )
  return parts.flat()
}

/**
 * Each output rendered, with its edit list. What cannot be sent, as where something in it is off the record, is not in the
 * file either, which says so.
 */
async function mixesOf(
  services: Services,
  { story }: Packed,
  keeping: string,
  folder: string,
  note: (share: number) => void,
  signal: AbortSignal,
): Promise<{ parts: Part[]; notMade: string[] }> {
  const { config } = services
  const parts: Part[] = []
  const notMade: string[] = []
  const outputs = outputsOf(story.body)
  for (const [i, output] of outputs.entries()) {
    const what = { kind: 'story' as const, id: story.id, output: output.id }
    const order: SendOrder = { what, format: 'wav', rate: 48_000, bits: 24, channels: 2, kbps: 192, pattern: '{slug}_{length}' }
    try {
      const prepared = await prepare(services, order)
      const path = join(folder, `${output.id}.wav`)
      const label = labelOf(prepared.about, order, { id: keeping, at: new Date() })
      const write: WriteOrder = { plan: prepared.plan, media: join(config.data, 'media'), path, order, label }
      const whole = await runThread<WriteReport>('send', { write } satisfies SendThreadOrder, (report) => {
        if ('progress' in report) note((i + report.progress) / outputs.length)
        return !signal.aborted
      })
      if (!whole) throw signal.reason
      const name = `mix/${i + 1}-${prepared.fileName.slice(0, -4)}`
      parts.push({ path: `${name}.wav`, content: { file: path } })
      parts.push({ path: `${name}.otio`, content: { text: JSON.stringify(await editListOf(services, what, prepared)) } })
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
      notMade.push(`The mix of ${output.name || 'the page'}: ${error.message}`)
    }
  }
  return { parts, notMade }
}
