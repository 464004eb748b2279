import { useNavigate } from 'react-router'
import { wordsLength, type Actuality } from '../../core/edits/actuality'
import { shareOf } from '../../core/page/following'
import { paceOf } from '../../core/page/reading'
import { BLOCK_KINDS, isRecorded, type Block } from '../../core/page/story'
import type { Plan } from '../../core/render/plan'
import type { Frames } from '../../core/time'
import { CommandKey } from '../commands/CommandButton'
import type { LiveDocument } from '../documents/liveDocument'
import { textIn, writeIn } from '../documents/writing'
import { CopyText } from '../story/CopyText'
import { EditableText } from '../ui/EditableText'
import { MenuItem } from '../ui/parts'
import type { useChosen } from '../ui/useChosen'
import { ActualityText } from './ActualityText'
import { AudibleJoins } from './AudibleJoins'
import { Bar } from './Bar'
import { KINDS } from './laid/kinds'
import { Pace } from './Pace'
import { Row } from './Row'
import type { useBlockActs } from './useBlockActs'
import type { useScript } from './useScript'
import { BlockLevel } from './mix/BlockLevel'
import type { useVoiceLevels } from './mix/useVoiceLevels'
import type { usePage } from './laid/usePage'

interface Props {
  story: string
  live: LiveDocument<'story'>
  block: Block
  piece: Actuality | undefined
  plan: Plan | undefined
  page: ReturnType<typeof usePage>
  chosen: ReturnType<typeof useChosen<Block>>
  acts: ReturnType<typeof useBlockActs>
  script: ReturnType<typeof useScript>
  voices: ReturnType<typeof useVoiceLevels>
  /** It was made just now, and is to be written. */
  writing: boolean
  /** The page plays with what is read live. */
  rehearsing: boolean
  place: () => Frames
  /** Who else is in this block. */
  here: readonly string[]
  onPlay: () => void
  onPickTrack: () => void
}

/** A block of a page: what it says, who says it, and what can be done with it. */
export function BlockRow({
  story,
  live,
  block,
  piece,
  plan,
  page,
  chosen,
  acts,
  script,
  voices,
  writing,
  rehearsing,
  place,
  here,
  onPlay,
  onPickTrack,
}: Props) {
  const navigate = useNavigate()
  const { spine, air, file, layout, facts, output } = page
  const { set, move } = acts
  const airRow = air.placed.find((row) => row.block.id === block.id)
  const { live: readLive, written } = BLOCK_KINDS[block.kind]
  const recorded = isRecorded(block)
  const index = spine.indexOf(block)
  const read = recorded && piece && airRow ? paceOf(block.text, airRow.words) : NaN
  const reading = written && (
    <Pace
      block={block}
      own={read || page.paces({ ...block, pace: undefined })}
      from={read ? 'as fast as its voice track' : recorded ? 'as its reader has read the lines that are recorded' : 'as most people read'}
      onKeep={(value) => set(block, 'pace', value, 'reading speed')}
    />
  )
  return (
    <Row
      block={block}
      row={airRow}
      slot={output.slot}
      chosen={chosen.is(block.id)}
      inTheFile={file.placed.some((row) => row.block.id === block.id)}
      onChoose={(event) => (event ? chosen.pressed(block.id, event) : chosen.is(block.id) || chosen.choose(block.id))}
      here={here}
      menu={
        <>
          <MenuItem onSelect={onPlay}>Play from here</MenuItem>
          {recorded && <MenuItem onSelect={() => void navigate(`/stories/${story}/voice?line=${block.id}`)}>Record …</MenuItem>}
          {recorded && page.rows.some(({ body }) => body.line === block.id) && (
            <MenuItem onSelect={() => void navigate(`/stories/${story}/voice?line=${block.id}&takes`)}>Takes …</MenuItem>
          )}
          {recorded && <MenuItem onSelect={onPickTrack}>{piece ? 'Another voice track …' : 'Choose voice track …'}</MenuItem>}
          {recorded && piece && (
            <MenuItem onSelect={() => set(block, 'piece', null, 'take the voice track off')}>Remove the voice track</MenuItem>
          )}
          {piece && <MenuItem onSelect={() => void navigate(`/pieces/${block.piece}`)}>To the Bench</MenuItem>}
          <MenuItem disabled={index === 0} onSelect={() => move(index, index - 1)}>
            Move up <CommandKey id="page.up" />
          </MenuItem>
          <MenuItem disabled={index === spine.length - 1} onSelect={() => move(index, index + 1)}>
            Move down <CommandKey id="page.down" />
          </MenuItem>
          <MenuItem onSelect={() => acts.aside(block)}>
            {page.isFirst ? 'Set aside' : 'Leave out of this output'} <CommandKey id="page.aside" />
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
              onKeep={(value) => set(block, 'reader', value, 'reader')}
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
      level={piece && <BlockLevel block={block} voices={voices} onSet={(dB) => set(block, 'gain', dB, 'level of a block')} />}
      bar={
        piece && plan ? (
          <Bar plan={plan} from={piece.head} to={piece.head + wordsLength(piece)} scale={2.2} tone={written ? 'ink' : 'tape'} />
        ) : null
      }
    >
      {written ? (
        <CopyText
          value={block.text}
          current={() => textIn(live, block.id, 'text')}
          label={`${KINDS[block.kind]}, words`}
          placeholder={block.kind === 'soc' ? 'For Brackle Sound, I’m …' : undefined}
          autoFocus={writing}
          rehearsing={rehearsing && airRow?.sound !== 'piece'}
          share={() => shareOf(layout, block.id, place())}
          onWrite={(change) => writeIn(live, block.id, 'text', change)}
          across={{
            breakAt: (caret) => script.breakAt(block, caret),
            joinUp: () => script.joinUp(block),
            pasteOver: (from, to, text) => script.pasteOver(block, from, to, text),
          }}
        />
      ) : (
        <ActualityText piece={piece} wordsOf={facts?.wordsOf} id={block.piece} />
      )}
    </Row>
  )
}
