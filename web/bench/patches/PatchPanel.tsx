import { useEffect, useRef, useState } from 'react'
import type { Twin } from '../../../contract/twins'
import type { TapeFacts } from '../../../core/render/plan'
import { clock, milliseconds, RATE, type Frames } from '../../../core/time'
import { Button, Key } from '../../ui/parts'
import { colour, useTheme } from '../../ui/theme'
import { cleared, drawSamples, strokeCut, useSamplesAround } from '../joins/sampleWave'
import type { Patching } from './usePatching'
import { CommandKey } from '../../commands/CommandButton'

/** A bad spot above, what may be laid over it below, in step where both begin; and what else is offered. */

const HEIGHT = 178
/** Shown on either side of what goes. */
const BESIDE = milliseconds(150)
const [OLD, LAID] = [46, 126]

interface Props {
  patching: Patching
  /** The words of the piece, by their places in it. */
  kept: readonly { text: string; at: Frames; end: Frames }[]
  tape: TapeFacts
  scale: number
  onChoose: (index: number) => void
  onLay: () => void
  onLeave: () => void
}

export function PatchPanel({ patching: { spot, twins, more, problem, current }, kept, tape, scale, onChoose, onLay, onLeave }: Props) {
  const twin = twins?.[current]
  const { from, to } = spot.inPiece
  const said = kept.filter((word) => word.end > from && word.at < to)
  return (
    <section aria-label="Patch" className="shrink-0 border-t border-rule bg-paper-low px-6 pt-1.5 pb-1">
      <div className="flex min-h-8 flex-wrap items-center gap-x-4 gap-y-1 text-[13px]">
        <span className="text-[12px] font-semibold text-faint">Patch</span>
        {said.length > 0 && <span className="font-serif">{said.map(({ text }) => text).join(' ')}</span>}
        <span className="text-soft" role="status">
          {problem ??
            (!twins
              ? 'looking for the same elsewhere on the tape …'
              : !twins.length
                ? 'Nothing like it is said elsewhere on this tape.'
                : `${current + 1} of ${twins.length}: ${aboutTwin(twin!)}`)}
        </span>
        <span className="flex-1" />
        {twin && (
          <span className="flex items-center gap-1 text-[12px] text-faint">
            <CommandKey id="patch.find" /> next
          </span>
        )}
        {twin && (
          <Button onClick={onLay}>
            Apply patch <Key>Enter</Key>
          </Button>
        )}
        <Button look="bare" onClick={onLeave}>
          Dismiss <Key>Esc</Key>
        </Button>
      </div>
      <div className="flex gap-5">
        <div className="min-w-0 flex-1">
          <Lanes spot={spot.onTape} twin={twin} tape={tape} scale={scale} />
        </div>
        <ol className="mt-1 h-[174px] w-64 shrink-0 overflow-y-auto text-[13px]" aria-label="What may be laid over it">
          {twins?.map((one, i) => (
            <li key={one.laid.from}>
              <button
                type="button"
                aria-pressed={i === current}
                className={`flex w-full items-baseline gap-3 rounded-sm px-2 py-1 text-left hover:bg-paper
                  ${i === current ? 'bg-paper font-semibold' : ''}`}
                onClick={(event) => {
                  // Enter is to lay it over, not to choose it again
                  event.currentTarget.blur()
                  onChoose(i)
                }}
              >
                <span className="w-11 shrink-0 text-right text-faint tabular-nums">{clock(one.at.from)}</span>
                <span className="min-w-0 flex-1 truncate font-serif text-[14px]">{one.text || 'similar sound'}</span>
                <span className="shrink-0 text-[11.5px] font-normal text-soft">{one.differs[0] ?? ''}</span>
              </button>
            </li>
          ))}
          {twins && more && <li className="px-2 py-1 text-[12px] text-faint">looking for what similar sound …</li>}
        </ol>
      </div>
    </section>
  )
}

const aboutTwin = ({ at, foundBy, differs, laid }: Twin): string =>
  [
    `${foundBy === 'words' ? 'said again' : 'similar sound'} at ${clock(at.from)}`,
    `${Math.round(((laid.to - laid.from) * 1000) / RATE)} ms of it`,
    ...differs,
  ].join(', ')

/** The old sound above, the new one below: what goes and what is not laid in grey, the joins as strokes. */
function Lanes({
  spot,
  twin,
  tape,
  scale,
}: {
  spot: { from: Frames; to: Frames }
  twin: Twin | undefined
  tape: TapeFacts
  scale: number
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const { theme } = useTheme()
  const [width, setWidth] = useState(0)
  const over = twin?.over ?? spot
  const reach = over.to - over.from + 4 * BESIDE
  const old = useSamplesAround(tape, over.from, reach)
  const laid = useSamplesAround(tape, twin?.laid.from ?? 0, reach, twin !== undefined)
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width))
    watch.observe(canvas.current!.parentElement!)
    return () => watch.disconnect()
  }, [])
  useEffect(() => {
    if (!canvas.current || !width) return
    const per = (over.to - over.from + 2 * BESIDE) / width
    const context = cleared(canvas.current, width, HEIGHT)
    const x = (frames: Frames) => (BESIDE + frames) / per
    const [left, right] = [x(0), x(over.to - over.from)]
    const laidRight = x(twin ? twin.laid.to - twin.laid.from : 0)
    context.fillStyle = colour('rule')
    context.fillRect(x(spot.from - over.from), OLD - 40, (spot.to - spot.from) / per, 80)
    drawSamples(context, old ?? null, reach - BESIDE, OLD, width, per, scale, (at) => at < left || at >= right)
    const named = (name: string, middle: number) => {
      context.fillStyle = colour('ink-faint')
      context.font = '11px "Public Sans Variable", sans-serif'
      context.fillText(name, 0, middle - 32)
    }
    named('original', OLD)
    if (!twin) return
    named('patch', LAID)
    drawSamples(
      context,
      laid ?? null,
      reach - BESIDE,
      LAID,
      width,
      per,
      scale * 10 ** (twin.level / 20),
      (at) => at >= left && at < laidRight,
    )
    strokeCut(context, [left + 7, OLD - 38], [left - 7, LAID + 38])
    strokeCut(context, [right + 7, OLD - 38], [laidRight - 7, LAID + 38])
  }, [width, over, spot, twin, old, laid, reach, scale, theme])
  return (
    <canvas
      ref={canvas}
      className="block w-full"
      style={{ height: HEIGHT }}
      role="img"
      aria-label="The bad spot above, what may be laid over it below."
    />
  )
}
