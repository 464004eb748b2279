import { Plus } from 'lucide-react'
import type { ReactNode } from 'react'
import type { Block, Hanger, StoryHead } from '../../core/page/story'
import { useSame } from '../api/useSame'
import { CommandButton } from '../commands/CommandButton'
import { Heading, Side } from '../shell/Shell'
import { useLasting } from '../ui/useLasting'
import { BLOCK_NAMES } from '../../core/page/blockNames'
import { PieceList } from './PieceList'
import { TapeList } from './TapeList'
import { TermsPanel } from './TermsPanel'
import type { usePage } from './laid/usePage'

interface Props {
  /** The sound of the lanes that is chosen. */
  hanger: ReactNode
  /** Marks on the page's time, and whether there are any. */
  marks: ReactNode
  marked: boolean
  id: string
  page: ReturnType<typeof usePage>
  onAdd: (pieces: readonly string[]) => void
  onPutBack: (block: Block) => void
  /** Sounds of the lanes that are set aside, with their names. */
  soundsAside: readonly { hanger: Hanger; name: string }[]
  onPutBackSound: (hanger: Hanger) => void
  /** Takes a block that this output leaves out in again. */
  onTakeIn: (block: Block) => void
  onTerms: (terms: StoryHead['terms']) => void
}

/** What lies beside a page: what can be put on it, what was set aside, and what belongs to the story as a whole. */
export function PageSide({ hanger, marks, marked, id, page, onAdd, onPutBack, soundsAside, onPutBackSound, onTakeIn, onTerms }: Props) {
  const { head, spine, offcuts, known } = page
  const used = useSame([...new Set(spine.flatMap(({ piece }) => piece ?? []))].sort())
  const under = useSame(page.air.hangers.flatMap(({ hanger: { plays } }) => ('tape' in plays ? plays.tape : [])))
  const on = useLasting({ add: onAdd })
  return (
    <Side label="Offcuts and pieces">
      {hanger}
      <Heading>Add below</Heading>
      <div className="mb-6 flex flex-wrap gap-1.5 pt-2">
        <CommandButton id="page.addCopy">
          <Plus size={14} /> Copy
        </CommandButton>
        <CommandButton id="page.addActuality">
          <Plus size={14} /> Actuality
        </CommandButton>
        <CommandButton id="page.addFull">
          <Plus size={14} /> Sound up full
        </CommandButton>
        <CommandButton id="page.addIntro">
          <Plus size={14} /> Host intro
        </CommandButton>
        <CommandButton id="page.addTag">
          <Plus size={14} /> Tag
        </CommandButton>
        <CommandButton id="page.addSoc">
          <Plus size={14} /> Standard out cue
        </CommandButton>
        <CommandButton id="page.layUnder">
          <Plus size={14} /> Sound under
        </CommandButton>
      </div>
      {marked && (
        <div className="mb-6 text-[13px]" data-testid="page-marks">
          <Heading>Marks</Heading>
          {marks}
        </div>
      )}
      <Heading>Pieces of this story</Heading>
      <div className="pt-2">
        <CommandButton id="page.byEar">Order by ear</CommandButton>
      </div>
      <PieceList story={id} rows={page.rows} used={used} onAdd={on.add} />
      <div className="h-6" />
      <Heading>Tapes of this story</Heading>
      <TapeList story={id} under={under} />
      <div className="h-6" />
      {page.leftOut.length > 0 && (
        <>
          <Heading>Not in this output</Heading>
          <ul data-testid="left-out" className="mb-6">
            {page.leftOut.map((block) => (
              <li key={block.id} className="flex items-center gap-2 border-b border-rule py-2">
                <span className="min-w-0 flex-1 truncate font-serif text-[14px] text-soft">
                  {(block.piece && known.get(block.piece)?.slug) || block.text || BLOCK_NAMES[block.kind]}
                </span>
                <button type="button" className="text-[12px] text-tape hover:underline" onClick={() => onTakeIn(block)}>
                  take in
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
      <Heading>Offcuts</Heading>
      {offcuts.length + soundsAside.length === 0 && <p className="py-3 text-faint">Blocks and sounds that you set aside are kept here.</p>}
      <ul data-testid="offcuts">
        {offcuts.map((block) => (
          <Offcut
            key={block.id}
            name={(block.piece ? known.get(block.piece)?.slug : block.text) || BLOCK_NAMES[block.kind]}
            onPutBack={() => onPutBack(block)}
          />
        ))}
        {soundsAside.map((one) => (
          <Offcut key={one.hanger.id} name={one.name} onPutBack={() => onPutBackSound(one.hanger)} />
        ))}
      </ul>
      <div className="h-6" />
      <Heading>Names and terms</Heading>
      <TermsPanel head={head} onSet={onTerms} />
    </Side>
  )
}

const Offcut = ({ name, onPutBack }: { name: string; onPutBack: () => void }) => (
  <li className="flex items-center gap-2 border-b border-rule py-2">
    <span className="min-w-0 flex-1 truncate font-serif text-[14px] text-soft italic">{name}</span>
    <button type="button" className="text-[12px] text-tape hover:underline" onClick={onPutBack}>
      put back
    </button>
  </li>
)
