import { useEffect, useRef } from 'react'
import type { Placed } from '../../../core/page/timing'
import type { Plan } from '../../../core/render/plan'
import { clock, RATE, toFrames, type Frames } from '../../../core/time'
import { CommandButton, CommandKey } from '../../commands/CommandButton'
import { Heading, Side } from '../../shell/Shell'
import { peakCache } from '../../sound/peakCache'
import { useFrames } from '../../sound/usePlayer'
import { Wave } from '../../sound/wave'
import { colour, useTheme } from '../../ui/theme'
import { BLOCK_NAMES } from '../../../core/page/blockNames'

/** So much is shown on either side of where the words begin. */
export const AROUND: Frames = toFrames(1.5)
const HEIGHT = 92

interface Props {
  /** The block, and the one above it; null where there is none, or nothing sounds. */
  row: Placed | null
  before: Placed | null
  plans: ReadonlyMap<string, Plan>
  playing: boolean
  place: () => Frames
  onClose: () => void
}

/** How one block gives way to the next, close up: the sound of both, where the words of one end and those of the other begin. */
export function SeamPanel({ row, before, plans, playing, place, onClose }: Props) {
  const gap = row && before ? row.at - before.at - before.words : 0
  return (
    <Side label="Close-up">
      <div className="flex items-baseline justify-between">
        <Heading>Close-up</Heading>
        <button type="button" className="text-[12px] text-tape hover:underline" onClick={onClose}>
          close <CommandKey id="page.seam" />
        </button>
      </div>
      {!row || !before ? (
        <p className="py-3 text-soft">Choose a block that follows another.</p>
      ) : (
        <div className="pt-3 text-[13px]" data-testid="seam">
          <p className="text-soft">{BLOCK_NAMES[before.block.kind]} ends</p>
          <Strip
            row={before}
            plan={before.block.piece ? plans.get(before.block.piece) : undefined}
            middle={row.at}
            {...{ playing, place }}
          />
          <Strip row={row} plan={row.block.piece ? plans.get(row.block.piece) : undefined} middle={row.at} {...{ playing, place }} />
          <p className="text-soft">{BLOCK_NAMES[row.block.kind]} begins</p>
          <dl className="my-3">
            <div className="flex justify-between border-b border-rule py-1.5">
              <dt>Begins</dt>
              <dd className="font-semibold">{clock(row.at)}</dd>
            </div>
            <div className="flex justify-between border-b border-rule py-1.5">
              <dt>{gap < 0 ? 'Overlap of the words' : 'Gap between the words'}</dt>
              <dd className="font-semibold">{(Math.abs(gap) / RATE).toFixed(2)} s</dd>
            </div>
          </dl>
          <div className="flex flex-wrap gap-1.5">
            <CommandButton id="play.across">Play across</CommandButton>
            <CommandButton id="join.gapShorter">Sooner</CommandButton>
            <CommandButton id="join.gapLonger">Later</CommandButton>
            <CommandButton id="join.gapLess">10 ms sooner</CommandButton>
            <CommandButton id="join.gapMore">10 ms later</CommandButton>
            <CommandButton id="join.gapUsual">At once</CommandButton>
          </div>
          <p className="pt-3 leading-relaxed text-soft">
            <CommandKey id="page.previous" /> <CommandKey id="page.next" /> go to the next seam.{' '}
            {gap < 0 && 'What ends sinks under what begins.'}
          </p>
        </div>
      )}
    </Side>
  )
}

interface StripProps extends Pick<Props, 'playing' | 'place'> {
  row: Placed
  plan: Plan | undefined
  /** The frame of the page in the middle. */
  middle: Frames
}

/** The sound of one block around a place of the page: its words dark, its handles light. */
function Strip({ row, plan, middle, playing, place }: StripProps) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const line = useRef<HTMLSpanElement>(null)
  const { theme } = useTheme()
  useEffect(() => {
    const element = canvas.current!
    const wave = plan && new Wave(plan)
    let due = 0
    const draw = () => {
      due = 0
      const [width, height] = [element.clientWidth * devicePixelRatio, HEIGHT * devicePixelRatio]
      element.width = width
      element.height = height
      const context = element.getContext('2d')!
      const per = (2 * AROUND) / width
      const column = new Float64Array(3)
      for (let x = 0; x < width; x++) {
        const at = middle - AROUND + x * per
        const inWords = at >= row.at && at < row.at + row.words
        context.fillStyle = colour(inWords ? 'ink' : 'faint')
        if (!wave || at < row.from || at >= row.to) continue
        wave.column(at - row.from, at - row.from + per, per, column)
        const size = Math.max(0.5, Math.min(1, Math.max(-column[0], column[1]) * 2.2) * (height / 2 - 2))
        context.fillRect(x, height / 2 - size, 1, 2 * size)
      }
      context.fillStyle = colour('cut')
      for (const edge of [row.at, row.at + row.words]) {
        const x = Math.round((edge - middle + AROUND) / per)
        if (x >= 0 && x <= width) context.fillRect(Math.min(x, width - 2), 0, 2, height)
      }
    }
    const later = () => {
      due ||= requestAnimationFrame(draw)
    }
    draw()
    const stop = peakCache.onChange(later)
    return () => {
      cancelAnimationFrame(due)
      stop()
    }
  }, [plan, row, middle, theme])
  useFrames(() => {
    const share = (place() - middle + AROUND) / (2 * AROUND)
    if (!line.current) return
    line.current.style.left = `${share * 100}%`
    line.current.style.opacity = share >= 0 && share <= 1 ? '1' : '0'
  }, playing)
  return (
    <div className="relative border-b border-rule">
      <canvas ref={canvas} className="w-full" style={{ height: HEIGHT }} aria-hidden />
      <span ref={line} className="absolute top-0 bottom-0 w-px bg-cut opacity-0" />
    </div>
  )
}
