import { toast } from 'sonner'
import type { PieceRow } from '../../contract/desk'
import type { LineUpInfo } from '../../contract/lineups'
import type { TapeInfo, Use } from '../../contract/tapes'
import type { WordsOf } from '../../core/edits/pieceWords'
import type { Mark, Rendition, Side as TapeSideOf, TapeHead, TapeStep } from '../../core/tape/tape'
import type { Frames, Stretch } from '../../core/time'
import { post } from '../api/client'
import { useOnce } from '../api/useOnce'
import type { OpenDocument } from '../documents/useDocument'
import { MadeOfPanel } from '../lineup/MadeOfPanel'
import { MendPanel } from '../mend/MendPanel'
import type { Tried } from '../mend/useTrying'
import { Heading, Side } from '../shell/Shell'
import { VoicesPanel } from '../words/VoicesPanel'
import { WordsPanel } from '../words/WordsPanel'
import { GoesOn } from './GoesOn'
import { LogPanel } from './LogPanel'
import { OnArrival } from './OnArrival'
import { PulledFrom } from './PulledFrom'
import { SidesPanel } from './SidesPanel'
import { TapeFacts } from './TapeFacts'

interface Props {
  tape: TapeInfo
  head: TapeHead
  uses: readonly Use[]
  pieces: readonly PieceRow[] | undefined
  wordsOf: WordsOf
  transcript: OpenDocument<'transcript'>
  /** What was made of its sides. */
  renditions: readonly Rendition[]
  /** What is tried on one of them is heard at once; null: nothing is. */
  onTry: (tried: Tried | null) => void
  marks: readonly Mark[]
  /** A mark that was made just now. */
  fresh: string | null
  selected: Stretch | null
  /** A line-up that was begun. */
  lineUp: string | null
  onWritten: () => void
  act: (steps: TapeStep[], label: string) => void
  onGo: (frame: Frames) => void
  onLineUp: () => void
}

/** What lies beside a tape: what was pulled from it, its words and voices, its log, its sides, and what is known of it. */
export function TapeSide({
  tape,
  head,
  uses,
  pieces,
  wordsOf,
  transcript,
  renditions,
  onTry,
  marks,
  fresh,
  selected,
  lineUp,
  onWritten,
  act,
  onGo,
  onLineUp,
}: Props) {
  const setHead = (key: string, value: string, label: string) => act([{ type: 'set', id: 'tape', key, value }], label)
  const setSides = (sides: TapeSideOf[], label: string) => act([{ type: 'set', id: 'tape', key: 'sides', value: sides }], label)
  const splitting = useOnce(async (side: number) => {
    const { joining } = await post<LineUpInfo>('/lineups/split', { tape: tape.id, side })
    toast.success(`“${joining!.name}” is being made; it will appear under Tapes.`)
  })
  return (
    <Side label="About this tape">
      <Heading>Pulled from this tape</Heading>
      <PulledFrom uses={uses} pieces={pieces} wordsOf={wordsOf} />
      <div className="h-6" />
      <Heading>Transcript</Heading>
      <WordsPanel tape={tape} transcript={transcript.body} />
      <VoicesPanel tape={tape} live={transcript.live} transcript={transcript.body} selected={selected} />
      <div className="h-6" />
      <Heading>Log</Heading>
      <LogPanel tape={tape.id} marks={marks} fresh={fresh} onWritten={onWritten} act={act} onGo={onGo} />
      <div className="h-6" />
      {tape.channels > 1 && (
        <>
          <Heading>Sides</Heading>
          <SidesPanel
            sides={head.sides}
            channels={tape.channels}
            selected={selected}
            onSet={setSides}
            onSplit={(side) => splitting.run(side)}
          />
          <div className="h-4" />
        </>
      )}
      {tape.state === 'ready' && (
        <>
          <Heading>Mend</Heading>
          <MendPanel
            tape={tape}
            speaker={head.speaker}
            sides={head.sides}
            renditions={renditions}
            selected={selected}
            act={act}
            onTry={onTry}
          />
        </>
      )}
      <MadeOfPanel tape={tape.id} />
      {tape.state === 'ready' && (
        <p className="py-2 text-[13px]">
          <button type="button" className="text-tape hover:underline" onClick={onLineUp}>
            {lineUp ? 'Go on lining up' : 'Line up with other recordings'} …
          </button>
        </p>
      )}
      <div className="h-6" />
      <Heading>The tape</Heading>
      <OnArrival tape={tape} sides={head.sides} onFix={setSides} />
      <GoesOn tape={tape} />
      <TapeFacts tape={tape} head={head} onSet={setHead} />
    </Side>
  )
}
