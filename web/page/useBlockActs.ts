import {
  BLOCK_KINDS,
  inOutput,
  isRecorded,
  othersIn,
  outputsOf,
  variantId,
  type Block,
  type BlockKind,
  type Otherwise,
  type StoryDocument,
  type StoryStep,
} from '../../core/page/story'
import { moveBlocks } from '../../core/page/moveBlocks'
import type { Frames } from '../../core/time'
import type { LiveDocument } from '../documents/liveDocument'
import { blocksAfter, newBlock } from '../story/putOnPage'
import type { useChosen } from '../ui/useChosen'
import { BLOCK_NAMES } from '../../core/page/blockNames'

interface OnPage {
  live: LiveDocument<'story'>
  body: StoryDocument
  /** Of an output that is not the first: what is left out or in is so in that one alone. */
  output: string | null
  /** The blocks of the page, in order. */
  spine: readonly Block[]
  chosen: ReturnType<typeof useChosen<Block>>
  /** A block whose copy is about to be written. */
  onWrite: (block: string) => void
}

/** What is done to the blocks of a page: to those that are chosen, or to one that is named. */
export function useBlockActs({ live, body, output, spine, chosen, onWrite }: OnPage) {
  const act = (steps: readonly StoryStep[], label: string) => live.act(steps, { label })
  const own = output ? othersIn(body, output) : null
  /** What a block has otherwise in this output is set there; all else on the page. */
  const set = (block: Block, key: keyof Block, value: unknown, label: string) => {
    const variant = own?.get(block.id)
    const here = variant && Object.hasOwn(variant, key) && variant[key as keyof Otherwise] !== undefined
    if (here) return act(inOutput(body, output!, block.id, { [key]: value ?? undefined }), label)
    act([{ type: 'set', id: block.id, key, value }], label)
  }
  /** Steps that give blocks other places: in this output alone where it is not the first. */
  const ordered = (steps: readonly StoryStep[]): readonly StoryStep[] =>
    output
      ? steps.flatMap((step) => (step.type === 'set' ? inOutput(body, output, step.id, { order: step.value as string }) : [step]))
      : steps
  /** A block is again as it is on the page. */
  const asOnPage = (block: Block) => act([{ type: 'drop', id: variantId(output!, block.id) }], 'as on the page')
  /** A line of its own for this output, which begins as the page's: it is in no other output, and the page's is not in this one. */
  const ownLine = (block: Block) => {
    const { id: _, order: __, piece: ___, ...fields } = block
    const { block: line, steps } = newBlock(body, block.kind, fields, block)
    const elsewhere = outputsOf(body).filter(({ id }) => id !== output)
    act(
      [
        ...inOutput(body, output!, block.id, { out: true }),
        ...steps,
        ...elsewhere.flatMap(({ id }) => inOutput(body, id, line.id, { out: true })),
      ],
      'own line in this output',
    )
    chosen.choose(line.id)
    onWrite(line.id)
  }
  const index = chosen.active ? spine.indexOf(chosen.active) : -1
  const many = chosen.all.length > 1 ? `${chosen.all.length} blocks` : 'a block'
  const beside = (from: number, to: number) => chosen.choose(spine[to + 1]?.id ?? spine[from - 1]?.id ?? null)
  const chosenEnds = () => [spine.indexOf(chosen.all[0]), spine.indexOf(chosen.all[chosen.all.length - 1])] as const

  const move = (from: number, to: number) => act(ordered(moveBlocks(spine, new Set([spine[from].id]), to)), 'move a block')
  /** All that are chosen, together, up or down by one of the others. */
  const moveChosen = (by: 1 | -1) => {
    const [first, last] = chosenEnds()
    const before = spine.slice(0, by < 0 ? first : last + 2).filter((block) => !chosen.is(block.id)).length
    const moving = new Set(chosen.all.map((block) => block.id))
    act(ordered(moveBlocks(spine, moving, Math.max(0, by < 0 ? before - 1 : before))), `move ${many}`)
  }
  const leave = (blocks: readonly Block[]) =>
    act(
      blocks.flatMap(({ id }) => inOutput(body, output!, id, { out: true })),
      `leave out ${blocks.length > 1 ? `${blocks.length} blocks` : 'a block'}`,
    )
  const takeIn = (block: Block) => act(inOutput(body, output!, block.id, { out: undefined }), 'take a block in')
  const asideChosen = () => {
    const ends = chosenEnds()
    if (output) {
      leave(chosen.all)
      return beside(...ends)
    }
    act(
      chosen.all.map((block): StoryStep => ({ type: 'set', id: block.id, key: 'aside', value: true })),
      `set aside ${many}`,
    )
    beside(...ends)
  }
  const aside = (block: Block) => {
    if (output) return leave([block])
    set(block, 'aside', true, 'set aside')
    beside(spine.indexOf(block), spine.indexOf(block))
  }
  const putBack = (block: Block) => {
    set(block, 'aside', false, 'put back')
    chosen.choose(block.id)
  }
  /** After which block a new one stands: the first intro before all, what ends a page after all, others below what is chosen. */
  const placeFor = (kind: BlockKind): Block | null | undefined => {
    if (kind === 'intro' && !spine.some((block) => block.kind === 'intro')) return null
    return kind === 'soc' || kind === 'tag' || index < 0 ? undefined : spine[index]
  }
  const add = (kind: BlockKind, fields: Partial<Block> = {}) => {
    const reader = isRecorded({ kind }) ? (spine.find((block) => isRecorded(block) && block.reader)?.reader ?? '') : ''
    const { block, steps } = newBlock(body, kind, { reader, ...fields }, placeFor(kind))
    act(steps, `add ${BLOCK_NAMES[kind].toLowerCase()}`)
    chosen.choose(block.id)
    if (BLOCK_KINDS[kind].written) onWrite(block.id)
  }
  /** Puts pieces on the page below a block, or what is chosen, in their order, as one act. */
  const addPieces = (added: readonly string[], after: Block | undefined = index >= 0 ? spine[index] : undefined) => {
    const { blocks, steps } = blocksAfter(
      body,
      added.map((piece) => ({ kind: 'actuality', piece })),
      after,
    )
    act(steps, added.length > 1 ? `add ${added.length} actualities` : 'add actuality')
    chosen.choose(blocks[blocks.length - 1].id)
  }
  /** The same blocks once more below the last of them, with their voice tracks. */
  const again = (blocks: readonly Block[]) => {
    if (!blocks.length) return
    const { blocks: made, steps } = blocksAfter(
      body,
      blocks.map(({ id: _, order: __, ...fields }) => fields),
      index >= 0 ? spine[index] : blocks.at(-1),
    )
    act(steps, blocks.length > 1 ? `duplicate ${blocks.length} blocks` : 'duplicate a block')
    chosen.choose(made.at(-1)!.id)
  }
  /** Leaves so much more room before the block that is chosen, or less: below nothing it begins before the one above has ended. */
  const nudge = (by: Frames, block = chosen.active) => block && begin((block.gap ?? 0) + by, block)
  /** How long after the block above a block begins. */
  const begin = (gap: Frames, block = chosen.active) => {
    if (!block || gap === (block.gap ?? 0)) return
    const label = gap ? 'when a block begins' : 'follow at once'
    // what is undefined in an output is as on the page
    if (output) act(inOutput(body, output, block.id, { gap }), label)
    else set(block, 'gap', gap || undefined, label)
  }
  /** Turns the chosen blocks to the left (below 0) or to the right. */
  const pan = (by: number) => {
    const to = (block: Block) => Math.max(-1, Math.min(1, Math.round(((block.pan ?? 0) + by) * 100) / 100)) || undefined
    act(
      chosen.all.map((block): StoryStep => ({ type: 'set', id: block.id, key: 'pan', value: to(block) })),
      'pan',
    )
  }
  return { asOnPage, ownLine, again, pan, nudge, begin, set, takeIn, move, moveChosen, asideChosen, aside, putBack, add, addPieces }
}
