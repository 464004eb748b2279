import { memo, type PointerEvent } from 'react'
import { useNavigate } from 'react-router'
import { wordsLength, type Actuality } from '../../../core/edits/actuality'
import type { End } from '../../../core/edits/ends'
import { paceOf } from '../../../core/page/reading'
import { BLOCK_KINDS, isRecorded, type Block, type Variant } from '../../../core/page/story'
import type { TextChange } from '../../../core/steps/text'
import type { Plan } from '../../../core/render/plan'
import type { Frames } from '../../../core/time'
import { panText } from '../../../core/typed'
import { CommandKey } from '../../commands/CommandButton'
import { CopyText } from '../../story/CopyText'
import { EditableText } from '../../ui/EditableText'
import { MenuItem } from '../../ui/parts'
import { EndGrip } from '../ends/EndGrip'
import { ActualityText } from './ActualityText'
import { AudibleJoins } from './AudibleJoins'
import { Bar } from './Bar'
import { BLOCK_NAMES } from '../../../core/page/blockNames'
import { Pace } from './Pace'
import { Row } from './Row'
import { BlockLevel } from '../mix/BlockLevel'
import type { Facts } from '../laid/usePage'

const ENDS = ['head', 'tail'] as const

/** What can be done with a block where it stands. */
export interface OnBlock {
  set: (block: Block, key: keyof Block, value: unknown, label: string) => void
  move: (block: Block, by: 1 | -1) => void
  aside: (block: Block) => void
  press: (block: Block, event: PointerEvent) => void
  /** Chooses it, where it is not chosen already. */
  choose: (block: Block) => void
  play: (block: Block) => void
  /** From a place within its words, as a share of them. */
  playWithin: (block: Block, share: number) => void
  pickTrack: (block: Block) => void
  /** The copy as it is in the document at this moment. */
  textNow: (block: Block) => string
  write: (block: Block, change: TextChange) => void
  /** How much of it has passed, 0 to 1; null while another one runs. */
  share: (block: Block) => number | null
  breakAt: (block: Block, caret: number) => void
  joinUp: (block: Block) => boolean
  pasteOver: (block: Block, from: number, to: number, text: string) => boolean
  /** Begins it so much later, or sooner. */
  nudge: (block: Block, by: Frames) => void
  /** Brings all that its speaker says to its level. */
  levelLikeThis: (block: Block) => void
  /** An end of what sounds in it was drawn to a place of its piece. */
  drawEnd: (block: Block, end: End, place: Frames) => void
  /** In this output: as on the page again, and a line of its own. */
  asOnPage: (block: Block) => void
  ownLine: (block: Block) => void
}

interface Props {
  /** How long its words are, in frames. */
  words: Frames
  inTheFile: boolean
  story: string
  block: Block
  piece: Actuality | undefined
  plan: Plan | undefined
  facts: Facts | null
  chosen: boolean
  first: boolean
  last: boolean
  /** It stands in the output that the page is made for. */
  isFirstOutput: boolean
  /** What it has otherwise in this output than on the page. */
  otherwise: Variant | undefined
  /** What is in its place is read live: there is no sound of its own. */
  silent: boolean
  /** At which its reader reads where nobody has set a speed, in words a minute. */
  own: number
  hasTakes: boolean
  /** How loud it is, in LUFS, and how much louder than the voice before it where that is too much; null where it is not known. */
  loudness: number | null
  jump: number | null
  /** It was made just now, and is to be written. */
  writing: boolean
  /** The page plays with what is read live. */
  rehearsing: boolean
  /** Who else is in this block. */
  here: string
  on: OnBlock
}

/** A block of a page: what it says, who says it, and what can be done with it. Drawn anew only when something of it changes. */
export const BlockRow = memo(function BlockRow(props: Props) {
  const { story, block, piece, plan, facts, chosen, first, last, isFirstOutput, silent, words, writing, rehearsing, on } = props
  const navigate = useNavigate()
  const { live: readLive, written } = BLOCK_KINDS[block.kind]
  const recorded = isRecorded(block)
  const differs = props.otherwise ? differences(props.otherwise) : ''
  const read = recorded && piece && words ? paceOf(block.text, words) : NaN
  const reading = written && (
    <Pace
      block={block}
      own={read || props.own}
      from={read ? 'as fast as its voice track' : recorded ? 'as its reader has read the lines that are recorded' : 'as most people read'}
      onKeep={(value) => on.set(block, 'pace', value, 'reading speed')}
    />
  )
  return (
    <Row
      block={block}
      words={words}
      chosen={chosen}
      inTheFile={props.inTheFile}
      onPress={(event) => on.press(block, event)}
      onChoose={() => on.choose(block)}
      onNudge={(by) => on.nudge(block, by)}
      onPlay={(share) => on.playWithin(block, share)}
      here={props.here}
      differs={differs}
      menu={
        <>
          <MenuItem onSelect={() => on.play(block)}>Play from here</MenuItem>
          {recorded && <MenuItem onSelect={() => void navigate(`/stories/${story}/voice?line=${block.id}`)}>Record …</MenuItem>}
          {recorded && props.hasTakes && (
            <MenuItem onSelect={() => void navigate(`/stories/${story}/voice?line=${block.id}&takes`)}>Takes …</MenuItem>
          )}
          {recorded && <MenuItem onSelect={() => on.pickTrack(block)}>{piece ? 'Another voice track …' : 'Choose voice track …'}</MenuItem>}
          {recorded && piece && (
            <MenuItem onSelect={() => on.set(block, 'piece', null, 'take the voice track off')}>Remove the voice track</MenuItem>
          )}
          {piece && <MenuItem onSelect={() => void navigate(`/pieces/${block.piece}`)}>To the Bench</MenuItem>}
          {piece?.speaker && <MenuItem onSelect={() => on.levelLikeThis(block)}>All of {piece.speaker} at this level</MenuItem>}
          <MenuItem disabled={first} onSelect={() => on.move(block, -1)}>
            Move up <CommandKey id="page.up" />
          </MenuItem>
          <MenuItem disabled={last} onSelect={() => on.move(block, 1)}>
            Move down <CommandKey id="page.down" />
          </MenuItem>
          {!isFirstOutput && written && <MenuItem onSelect={() => on.ownLine(block)}>Own line in this output</MenuItem>}
          {differs && <MenuItem onSelect={() => on.asOnPage(block)}>As on the page again</MenuItem>}
          <MenuItem onSelect={() => on.aside(block)}>
            {isFirstOutput ? 'Set aside' : 'Leave out of this output'} <CommandKey id="page.aside" />
          </MenuItem>
        </>
      }
      who={
        readLive ? (
          <>
            <span className="block">live, not in the file</span>
            {reading}
          </>
        ) : written ? (
          <>
            <EditableText
              label="Reader"
              value={block.reader}
              placeholder="reader"
              onKeep={(value) => on.set(block, 'reader', value, 'reader')}
            />
            {reading}
            {!piece && <span className="block">no voice track</span>}
          </>
        ) : (
          <>
            <span>{piece ? [piece.speaker, piece.role].filter(Boolean).join(', ') || 'no speaker named' : 'no piece'}</span>
            {piece && facts && <AudibleJoins piece={piece} factsOf={facts.factsOf} wordsOf={facts.wordsOf} />}
          </>
        )
      }
      level={
        piece && (
          <>
            <BlockLevel
              loudness={props.loudness}
              jump={props.jump}
              onTurn={(by) => on.set(block, 'gain', Math.round(((block.gain ?? 0) + by) * 10) / 10, 'level of a block')}
            />
            {Boolean(block.pan) && <span className="text-[12px] text-soft">{panText(block.pan!)}</span>}
          </>
        )
      }
      bar={
        piece && plan ? (
          <>
            <Bar plan={plan} from={piece.head} to={piece.head + wordsLength(piece)} scale={2.2} tone={written ? 'ink' : 'tape'} />
            {facts &&
              ENDS.map((end) => (
                <EndGrip key={end} end={end} piece={piece} wordsOf={facts.wordsOf} onDrop={(place) => on.drawEnd(block, end, place)} />
              ))}
          </>
        ) : null
      }
    >
      {written ? (
        <CopyText
          value={block.text}
          current={() => on.textNow(block)}
          label={`${BLOCK_NAMES[block.kind]}, words`}
          placeholder={block.kind === 'soc' ? 'For Brackle Sound, I’m …' : undefined}
          autoFocus={writing}
          rehearsing={rehearsing && silent}
          share={() => on.share(block)}
          onWrite={(change) => on.write(block, change)}
          across={{
            breakAt: (caret) => on.breakAt(block, caret),
            joinUp: () => on.joinUp(block),
            pasteOver: (from, to, text) => on.pasteOver(block, from, to, text),
          }}
        />
      ) : (
        <ActualityText piece={piece} wordsOf={facts?.wordsOf} id={block.piece} />
      )}
    </Row>
  )
})

/** What a block has of its own in an output, in words: `own place, own words`. */
const differences = ({ order, text, piece, gap, pace }: Variant): string =>
  [order && 'place', text !== undefined && 'words', piece && 'voice track', gap !== undefined && 'gap', pace && 'speed']
    .flatMap((one) => (one ? `own ${one}` : []))
    .join(', ')
