import { Plus } from 'lucide-react'
import type { Block, StoryHead } from '../../core/page/story'
import { CommandButton } from '../commands/CommandButton'
import type { LiveDocument } from '../documents/liveDocument'
import { textIn, writeIn } from '../documents/writing'
import { Heading, Side } from '../shell/Shell'
import { CopyText } from '../story/CopyText'
import { KINDS } from './kinds'
import { PieceList } from './PieceList'
import { TapeList } from './TapeList'
import { TermsPanel } from './TermsPanel'
import type { usePage } from './usePage'

interface Props {
  id: string
  live: LiveDocument<'story'>
  page: ReturnType<typeof usePage>
  onAdd: (pieces: readonly string[]) => void
  onPutBack: (block: Block) => void
  onTerms: (terms: StoryHead['terms']) => void
}

/** What lies beside a page: what can be put on it, what was set aside, and what belongs to the story as a whole. */
export function PageSide({ id, live, page, onAdd, onPutBack, onTerms }: Props) {
  const { head, spine, offcuts, known } = page
  return (
    <Side label="Offcuts and pieces">
      <Heading>Add below</Heading>
      <div className="mb-6 flex flex-wrap gap-1.5 pt-2">
        <CommandButton id="page.addCopy">
          <Plus size={14} /> Copy
        </CommandButton>
        <CommandButton id="page.addActuality">
          <Plus size={14} /> Actuality
        </CommandButton>
        <CommandButton id="page.addIntro">
          <Plus size={14} /> Host intro
        </CommandButton>
      </div>
      <Heading>Pieces of this story</Heading>
      <PieceList story={id} rows={page.rows} spine={spine} onAdd={onAdd} />
      <div className="h-6" />
      <Heading>Tapes of this story</Heading>
      <TapeList story={id} />
      <div className="h-6" />
      <Heading>Offcuts</Heading>
      {offcuts.length === 0 && <p className="py-3 text-faint">Blocks that you set aside are kept here.</p>}
      <ul data-testid="offcuts">
        {offcuts.map((block) => (
          <li key={block.id} className="flex items-center gap-2 border-b border-rule py-2">
            <span className="min-w-0 flex-1 truncate font-serif text-[14px] text-soft italic">
              {block.piece ? known.get(block.piece)?.slug : block.text || KINDS[block.kind]}
            </span>
            <button type="button" className="text-[12px] text-tape hover:underline" onClick={() => onPutBack(block)}>
              put back
            </button>
          </li>
        ))}
      </ul>
      <div className="h-6" />
      <Heading>Names and terms</Heading>
      <TermsPanel head={head} onSet={onTerms} />
      <div className="h-6" />
      <Heading>Standard out cue</Heading>
      <div className="pt-2">
        <CopyText
          value={head.soc}
          current={() => textIn(live, 'story', 'soc')}
          label="Standard out cue"
          placeholder="For Brackle Sound, I’m …"
          rehearsing={false}
          share={() => null}
          onWrite={(change) => writeIn(live, 'story', 'soc', change)}
        />
      </div>
    </Side>
  )
}
