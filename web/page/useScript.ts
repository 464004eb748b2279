import { toast } from 'sonner'
import type { Anchor } from '../../core/page/anchors'
import { paragraphs } from '../../core/page/paragraphs'
import { BLOCK_KINDS, hangersOf, variantsOf, type Block, type StoryDocument, type StoryStep } from '../../core/page/story'
import type { Actuality } from '../../core/edits/actuality'
import { pieceWords, type WordsOf } from '../../core/edits/pieceWords'
import { textChange } from '../../core/steps/text'
import { slugOf } from '../../core/voicing/slug'
import { joinTakes } from '../../core/voicing/joinTakes'
import { splitPiece, splitTake } from '../../core/voicing/splitTake'
import type { Frames } from '../../core/time'
import { put } from '../api/client'
import type { LiveDocument } from '../documents/liveDocument'
import { blocksAfter } from '../story/putOnPage'

interface OnPage {
  live: LiveDocument<'story'>
  spine: readonly Block[]
  pieceOf: (id: string) => Actuality | undefined
  /** Null until it is known. */
  wordsOf: WordsOf | null
  onWrite: (block: string) => void
}

/** Writing across blocks: ↵ makes the next one or splits at the caret, ⌫ at the start joins, paragraphs that are pasted become blocks. */
export function useScript({ live, spine, pieceOf, wordsOf, onWrite }: OnPage) {
  const textOf = (block: Block): string => (live.body.records[block.id] as Block | undefined)?.text ?? block.text

  /** What stands before the caret stays; `texts` become blocks of their own below, in one act. */
  const breakInto = (block: Block, head: string, texts: readonly string[], label: string, together?: string): Block[] => {
    const { kind, reader, pace } = block
    const made = blocksAfter(
      live.body,
      texts.map((text) => ({ kind, text, reader, pace })),
      block,
    )
    const before = textOf(block)
    const shorter: StoryStep[] = head === before ? [] : [write(block, before, head)]
    live.act([...shorter, ...made.steps], { label, together })
    onWrite(made.blocks[made.blocks.length - 1].id)
    return made.blocks
  }

  /** The voice track of a line that was split goes with it, where it is known what it says; else it stays with the first part. */
  const splitTrack = async (block: Block, text: string, caret: number, below: Block, together: string) => {
    const take = pieceOf(block.piece!)
    const parts = take && wordsOf && splitTake(take, pieceWords(take.spans, wordsOf, take.sides), text, caret)
    if (!parts) return void toast('The voice track stays with the first part.')
    const [first, second] = [crypto.randomUUID(), crypto.randomUUID()]
    const named = (words: string) => ({ slug: slugOf(words) })
    try {
      await Promise.all([
        put(`/documents/${first}`, { ...parts.first, ...named(text.slice(0, caret)), line: block.id }),
        put(`/documents/${second}`, { ...parts.second, ...named(text.slice(caret)), line: below.id }),
      ])
    } catch (error) {
      return void toast.error(`The voice track stays with the first part: ${(error as Error).message}`)
    }
    const gain = block.gain === undefined ? [] : [{ type: 'set' as const, id: below.id, key: 'gain', value: block.gain }]
    live.act(
      [
        { type: 'set', id: block.id, key: 'piece', value: first },
        { type: 'set', id: below.id, key: 'piece', value: second },
        { type: 'set', id: below.id, key: 'gap', value: parts.gap },
        ...gain,
      ],
      { label: 'split a block', together },
    )
  }

  /** Parts what is played in a block at the pause nearest to a place of it (frames of the piece), into two blocks. */
  const splitPieceAt = async (block: Block, place: Frames) => {
    const piece = block.piece ? pieceOf(block.piece) : undefined
    const parts = piece && wordsOf && splitPiece(piece, pieceWords(piece.spans, wordsOf, piece.sides), place)
    if (!piece || !parts) return void toast('There is no pause to split it at.')
    try {
      const [first, second] = await Promise.all([makePiece(parts.first), makePiece({ ...parts.second, slug: `${piece.slug}, 2` })])
      const { kind, gain, pan } = block
      const told = { ...(gain === undefined ? {} : { gain }), ...(pan === undefined ? {} : { pan }), gap: parts.gap }
      const { steps } = blocksAfter(live.body, [{ kind, piece: second, ...told }], block)
      live.act([{ type: 'set', id: block.id, key: 'piece', value: first }, ...steps], { label: 'split a block' })
    } catch (error) {
      toast.error((error as Error).message)
    }
  }

  return {
    splitPieceAt,
    /** At its end the next block of its kind begins; elsewhere what stands behind the caret becomes one. */
    breakAt(block: Block, caret: number): void {
      const text = textOf(block)
      const [head, tail] = [text.slice(0, caret).trimEnd(), text.slice(caret).trimStart()]
      if (!text.trim()) return
      const together = crypto.randomUUID()
      const [below] = breakInto(block, head, [tail], tail ? 'split a block' : 'add a block', together)
      if (tail && block.piece) void splitTrack(block, text, caret, below, together)
    },
    /** Puts pasted paragraphs in the place of what was selected; false where they are no more than one. */
    pasteOver(block: Block, from: number, to: number, pasted: string): boolean {
      const parts = paragraphs(pasted)
      if (parts.length < 2) return false
      const text = textOf(block)
      const [first, ...rest] = parts
      const last = `${rest[rest.length - 1]} ${text.slice(to)}`.trim()
      const seam = from > 0 && /^\s/.test(pasted) ? ' ' : ''
      breakInto(block, `${text.slice(0, from).trimEnd()}${seam}${first}`, [...rest.slice(0, -1), last], `paste ${parts.length} paragraphs`)
      return true
    },
    /** Its words go on at the end of the written block above; false where there is none. */
    joinUp(block: Block): boolean {
      const before = spine[spine.indexOf(block) - 1]
      if (!before || !BLOCK_KINDS[before.kind].written || BLOCK_KINDS[before.kind].live !== BLOCK_KINDS[block.kind].live) return false
      const [above, own] = [textOf(before), textOf(block)]
      const joined = [above.trimEnd(), own.trimStart()].filter(Boolean).join(' ')
      const joinWith = (piece: string | null) => {
        const steps: StoryStep[] = [
          ...(joined === above ? [] : [write(before, above, joined)]),
          ...(piece ? [{ type: 'set' as const, id: before.id, key: 'piece', value: piece }] : []),
          ...handedOver(live.body, block.id, before.id),
          { type: 'drop', id: block.id },
        ]
        live.act(steps, { label: 'join two blocks' })
        goTo(before.id, joined.length - own.trimStart().length)
      }
      const [first, second] = [before, block].map(({ piece }) => (piece ? pieceOf(piece) : undefined))
      if (first && second) {
        const louder = (block.gain ?? 0) - (before.gain ?? 0)
        const both = { ...joinTakes(first, second, block.gap ?? 0, louder), slug: slugOf(joined), line: before.id }
        void makePiece(both).then(joinWith, (error: Error) => toast.error(error.message))
      } else joinWith(block.piece)
      return true
    },
  }
}

/** A new piece; resolves to its id. */
async function makePiece(piece: Actuality): Promise<string> {
  const id = crypto.randomUUID()
  await put(`/documents/${id}`, piece)
  return id
}

const write = ({ id }: Block, before: string, after: string): StoryStep => ({
  type: 'write',
  id,
  key: 'text',
  change: textChange(before, after),
})

/** Steps by which what held on to a block that goes holds on to another one: to its words, or to its end. */
function handedOver(story: StoryDocument, from: string, to: string): StoryStep[] {
  const moved = (anchor: Anchor): Anchor =>
    !('block' in anchor) || anchor.block !== from ? anchor : { ...anchor, block: to, at: typeof anchor.at === 'string' ? 'end' : anchor.at }
  const steps = hangersOf(story).flatMap((hanger): StoryStep[] => {
    const { id, start, end, sections } = hanger
    const next = { start: moved(start), end: end && moved(end), sections: sections?.map((one) => ({ ...one, from: moved(one.from) })) }
    return (['start', 'end', 'sections'] as const).flatMap((key): StoryStep[] =>
      JSON.stringify(next[key]) === JSON.stringify(hanger[key]) ? [] : [{ type: 'set', id, key, value: next[key] }],
    )
  })
  const variants = variantsOf(story).filter(({ block }) => block === from)
  return [...steps, ...variants.map(({ id }): StoryStep => ({ type: 'drop', id }))]
}

/** The caret stands in a block's words, once these are shown. */
function goTo(block: string, caret: number): void {
  requestAnimationFrame(() => {
    const field = globalThis.document.querySelector<HTMLTextAreaElement>(`#block-${block} textarea`)
    field?.focus()
    field?.setSelectionRange(caret, caret)
  })
}
