import type { Block } from '../../core/page/story'
import { asSaid } from '../../core/voicing/asWritten'
import { clock } from '../../core/time'
import { wordsLength } from '../../core/edits/actuality'
import { CommandKey } from '../commands/CommandButton'
import type { LineTake } from './useTakes'

interface Props {
  line: Block
  takes: readonly LineTake[]
  chosen: LineTake | null
  /** Nothing is being recorded. */
  idle: boolean
  onHear: (take: LineTake) => void
  onUse: (take: LineTake) => void
  onWriteAsSaid: (text: string) => void
}

/** The takes of a line: which counts, how near each is to the copy, and what it says otherwise. */
export function Takes({ line, takes, chosen, idle, onHear, onUse, onWriteAsSaid }: Props) {
  if (!takes.length) return null
  return (
    <div>
      <h2 className="flex items-baseline gap-2 border-b border-rule pb-1 text-[13px] font-semibold text-faint">
        Takes of this line
        {takes.length > 1 && (
          <span className="font-normal">
            <CommandKey id="join.previous" /> <CommandKey id="join.next" />
          </span>
        )}
      </h2>
      <ul data-testid="takes">
        {takes.map((take, i) => (
          <li key={take.row.id} className={`border-b border-rule py-2 ${take === chosen ? 'bg-wash' : ''}`}>
            <div className="flex items-baseline gap-2 text-[14px]">
              <button
                type="button"
                disabled={!idle}
                className="font-semibold hover:underline disabled:no-underline"
                onClick={() => onHear(take)}
                aria-label={`Play take ${i + 1}`}
              >
                Take {i + 1}
              </button>
              <span className="text-soft">{clock(wordsLength(take.row.body))}</span>
              <span className="min-w-0 flex-1 truncate text-[13px] text-faint" title="Of the takes, the one that is nearest to the copy">
                {take.nearest && 'nearest to copy'}
              </span>
              {take.counts ? (
                <span className="text-[13px] font-semibold text-tape">on the page</span>
              ) : (
                <button type="button" className="text-[13px] text-tape hover:underline" onClick={() => onUse(take)}>
                  use it {take === chosen && <CommandKey id="page.write" />}
                </button>
              )}
            </div>
            {take === chosen && <SaidOtherwise take={take} line={line} onWriteAsSaid={onWriteAsSaid} />}
          </li>
        ))}
      </ul>
    </div>
  )
}

function SaidOtherwise({ take, line, onWriteAsSaid }: { take: LineTake; line: Block; onWriteAsSaid: (text: string) => void }) {
  if (!take.otherwise) return <p className="text-[13px] text-faint">Not transcribed yet.</p>
  if (!take.otherwise.length) return <p className="text-[13px] text-faint">As written.</p>
  return (
    <div className="pt-1 text-[13px] text-soft">
      {take.otherwise.map(({ written, said }, i) => (
        <p key={i}>
          {said ? `“${said}”` : 'nothing'} {written ? `for “${written}”` : 'besides'}
        </p>
      ))}
      <button type="button" className="mt-1 text-tape hover:underline" onClick={() => onWriteAsSaid(asSaid(line.text, take.otherwise!))}>
        Write it as it was said
      </button>
    </div>
  )
}
