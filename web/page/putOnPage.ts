import { generateKeyBetween } from 'fractional-indexing'
import { blocksOf, DEFAULT_PACE, type Block, type StoryDocument } from '../../core/page/story'
import { liveDocument } from '../documents/useDocument'

/** A new block to stand after another (or first, or last where `after` is undefined). */
export function newBlock(story: StoryDocument, kind: Block['kind'], fields: Partial<Block> = {}, after?: Block | null): Block {
  const blocks = blocksOf(story)
  const index = after === undefined ? blocks.length - 1 : after === null ? -1 : blocks.findIndex((block) => block.id === after.id)
  const order = generateKeyBetween(blocks[index]?.order ?? null, blocks[index + 1]?.order ?? null)
  return { id: crypto.randomUUID(), kind, order, aside: false, text: '', reader: '', pace: DEFAULT_PACE, piece: null, ...fields }
}

/** Puts a piece at the end of its story's page; true where it was on it already. */
export async function putOnPage(story: string, piece: string): Promise<boolean> {
  const live = await liveDocument(story, 'story')
  const body = live.body as StoryDocument
  const there = blocksOf(body).find((block) => block.piece === piece)
  if (there && !there.aside) return true
  if (there) live.act([{ type: 'set', id: there.id, key: 'aside', value: false }], { label: 'take back' })
  else live.act([{ type: 'put', record: newBlock(body, 'actuality', { piece }) }], { label: 'put on the page' })
  return false
}
