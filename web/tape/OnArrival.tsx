import type { TapeInfo } from '../../contract/tapes'
import { inWords, say, type Finding } from '../../core/hearing/findings'
import type { Side } from '../../core/tape/tape'
import { clock } from '../../core/time'
import { run } from '../commands/commands'
import { Progress } from '../ui/parts'
import { useFigures } from '../api/queries'

/** Speech is brought to about this, in dBFS. */
const GOOD_SPEECH = -26

/** What can be put right about a finding: what to call it, and the sides that the tape should have. */
function remedy(finding: Finding, sides: readonly Side[]): { label: string; sides: Side[] } | null {
  const channels = sides.flatMap((side) => side.channels as number[])
  const one = (channel: number): Side => ({
    name: sides.find((side) => (side.channels as number[]).includes(channel))?.name ?? '',
    channels: [channel],
  })
  switch (finding.what) {
    case 'same':
      return channels.length > 1 ? { label: 'Keep one', sides: [one(0)] } : null
    case 'empty':
      return channels.length > 1 && channels.includes(finding.channel)
        ? { label: 'Leave it out', sides: channels.filter((channel) => channel !== finding.channel).map(one) }
        : null
    case 'upsideDown':
      return channels.length === 2 && !sides.some((side) => side.flip)
        ? { label: 'Turn it over', sides: [one(0), { ...one(1), flip: true }] }
        : null
    case 'low':
      return sides.some((side) => side.level)
        ? null
        : {
            label: `Raise by ${Math.round(GOOD_SPEECH - finding.level)} dB`,
            sides: sides.map((side) => ({ ...side, level: Math.round(GOOD_SPEECH - finding.level) })),
          }
    default:
      return null
  }
}

/** What was heard on a tape as it came: one line in words, what is wrong with it, and the figures. */
export function OnArrival({
  tape,
  sides,
  onFix,
}: {
  tape: TapeInfo
  sides: readonly Side[]
  onFix: (sides: Side[], label: string) => void
}) {
  const figures = useFigures(tape)
  if (tape.state === 'arriving')
    return (
      <div className="py-2.5">
        <p className="mb-2 text-[13px]">Still arriving: {clock(tape.frames)} of it is here, and can be cut.</p>
        {tape.error && <p className="mb-2 text-[13px] text-cut-ink">{tape.error}</p>}
        {tape.size > 0 && <Progress value={tape.progress} label="Arrival" />}
      </div>
    )
  if (!figures) return null
  return (
    <div className="py-2.5 text-[13px]">
      <p className="font-serif text-[15px] leading-snug">
        {inWords(figures)}{' '}
        <button type="button" className="font-sans text-[12px] text-tape hover:underline" onClick={() => run('view.figures')}>
          Levels
        </button>
      </p>
      {tape.findings.length > 0 && (
        <ul className="mt-2 flex flex-col gap-1" data-testid="findings">
          {tape.findings.map((finding) => {
            const offer = remedy(finding, sides)
            return (
              <li key={finding.what + ('channel' in finding ? finding.channel : '')} className="flex items-baseline gap-2">
                <span className="size-1.5 shrink-0 -translate-y-px rounded-full bg-cut" aria-hidden />
                <span className="min-w-0 flex-1">{say(finding)}</span>
                {offer && (
                  <button
                    type="button"
                    className="shrink-0 text-tape hover:underline"
                    onClick={() => onFix(offer.sides, offer.label.toLowerCase())}
                  >
                    {offer.label}
                  </button>
                )}
              </li>
            )
          })}
        </ul>
      )}
    </div>
  )
}
