import { placeAt, type OrderedPlace } from '../../core/page/order'
import { blocksOf, storyType, type Block, type StoryDocument, type StoryStep } from '../../core/page/story'
import { applyAll } from '../../core/steps/document'
import { liveDocument } from '../documents/useDocument'

/** The steps by which others make way for something that is put at a place. */
const ordered = ({ others }: OrderedPlace): StoryStep[] => others.map(({ id, order }) => ({ type: 'set', id, key: 'order', value: order }))

/** A new block to stand after another (first where `after` is null, last where it is undefined), and the steps that put it there. */
export function newBlock(
  story: StoryDocument,
  kind: Block['kind'],
  fields: Partial<Block> = {},
  after?: Block | null,
): { block: Block; steps: StoryStep[] } {
  const blocks = blocksOf(story)
  const index = after === undefined ? blocks.length : after === null ? 0 : blocks.findIndex((block) => block.id === after.id) + 1
  const place = placeAt(blocks, index)
  const block: Block = {
    id: crypto.randomUUID(),
    kind,
    order: place.order,
    aside: false,
    text: '',
    reader: '',
    piece: null,
    ...fields,
  }
  return { block, steps: [...ordered(place), { type: 'put', record: block }] }
}

/** New blocks to stand one below the other after another block (last where it is undefined), and the steps that put them there. */
export function blocksAfter(
  story: StoryDocument,
  all: readonly (Partial<Block> & Pick<Block, 'kind'>)[],
  after?: Block,
): { blocks: Block[]; steps: StoryStep[] } {
  const blocks: Block[] = []
  const steps: StoryStep[] = []
  let now = story
  for (const { kind, ...fields } of all) {
    const made = newBlock(now, kind, fields, blocks.at(-1) ?? after)
    blocks.push(made.block)
    steps.push(...made.steps)
    now = applyAll(storyType, now, made.steps)
  }
  return { blocks, steps }
}

/** Puts a piece at the end of its story's page; true where it was on it already. */
export async function putOnPage(story: string, piece: string): Promise<boolean> {
  const live = await liveDocument(story, 'story')
  const body = live.body
  const there = blocksOf(body).find((block) => block.piece === piece)
  if (there && !there.aside) return true
  if (there) live.act([{ type: 'set', id: there.id, key: 'aside', value: false }], { label: 'put back' })
  else live.act(newBlock(body, 'actuality', { piece }).steps, { label: 'put on the page' })
  return false
}
