import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { deepOf, USUAL_DIP } from '../../../core/page/dips'
import { panFrom, setPanStop } from '../../../core/page/hangerActs'
import type { Anchor } from '../../../core/page/anchors'
import type { Hold, PlacedHanger } from '../../../core/page/lay'
import { BLOCK_KINDS, type Block } from '../../../core/page/story'
import type { EndShape } from '../../../core/sound/fade'
import { clock, RATE, toFrames, type Frames } from '../../../core/time'
import { parseFigure } from '../../../core/typed'
import { CommandButton, CommandKey } from '../../commands/CommandButton'
import { orSay } from '../../api/orSay'
import { Heading } from '../../shell/Shell'
import { FigureInput } from '../../ui/FigureInput'
import { BLOCK_NAMES } from '../../../core/page/blockNames'
import { PanRows } from './PanRows'
import { whyNot, type Hangers } from './useHangers'

interface FigureProps {
  label: string
  value: number
  unit: 'dB' | 's'
  onKeep: (value: number) => void
  children?: ReactNode
}

function Figure({ label, value, unit, onKeep, children }: FigureProps) {
  return (
    <div className="flex items-baseline justify-between gap-2 border-b border-rule py-1.5">
      <span>{label}</span>
      <span className="whitespace-nowrap">
        {children}
        <FigureInput
          label={`${label} in ${unit}`}
          value={String(Math.round(value * 100) / 100).replace('-', '−')}
          read={parseFigure}
          noun="figure"
          hint={unit === 'dB' ? '-6, in dB' : '0.7, in seconds'}
          onKeep={onKeep}
          className="w-16 border-transparent bg-transparent px-1 text-right font-semibold hover:border-rule"
        />{' '}
        <span className="inline-block w-5 text-faint">{unit}</span>
      </span>
    </div>
  )
}

const CURVES: Record<EndShape, string> = { power: 'holds on', gain: 'even', ear: 'sinks early' }

/** The curve of a fade; of one that has no length there is none. */
function Curve({ label, value = 'power', onKeep }: { label: string; value?: EndShape; onKeep: (value: EndShape) => void }) {
  return (
    <select
      aria-label={label}
      className="rounded border border-transparent bg-transparent text-[12px] text-soft hover:border-rule focus:border-tape"
      value={value}
      onChange={(event) => onKeep(event.target.value as EndShape)}
    >
      {(Object.keys(CURVES) as EndShape[]).map((shape) => (
        <option key={shape} value={shape}>
          {CURVES[shape]}
        </option>
      ))}
    </select>
  )
}

interface Props {
  one: PlacedHanger
  hangers: Hangers
  name: string
  /** Of the tape that it plays; null for a piece. */
  tape: string | null
  spine: readonly Block[]
  /** How far a bed lies below the voices where it is under, in dB; null where that is not known. */
  below: number | null
}

/** The sound that is chosen: where it begins, goes under and ends, and how loud it is. */
export function HangerPanel({ one, hangers, name, tape, spine, below }: Props) {
  const { hanger, lane } = one
  const { set } = hangers
  const { dip, sections = [] } = hanger
  const seconds = (value: Frames | undefined) => (value ?? 0) / RATE
  const setDip = (change: Partial<typeof USUAL_DIP>) => set(hanger, 'dip', { ...(dip ?? USUAL_DIP), ...change }, 'how it goes under')
  return (
    <section className="mb-6 text-[13px]" data-testid="hanger-panel">
      <div className="flex items-baseline justify-between">
        <Heading>{lane.name}</Heading>
        <button type="button" className="text-[12px] text-tape hover:underline" onClick={() => hangers.choose(null)}>
          close <CommandKey id="select.clear" />
        </button>
      </div>
      <p className="pt-2 font-serif text-[17px] leading-snug">{tape ? <Link to={`/tapes/${tape}`}>{name}</Link> : name}</p>
      <p className="text-soft">
        {clock(one.from)} to {clock(one.to)}
        {one.short > 0 && <span className="text-cut-ink">, {clock(one.short)} too short</span>}
      </p>
      <dl className="my-2">
        <Edge name="Begins" anchor={hanger.start} hold={one.start} spine={spine} />
        {hanger.end ? <Edge name="Ends" anchor={hanger.end} hold={one.end!} spine={spine} /> : <Row name="Ends">when it is over</Row>}
      </dl>
      <div className="mt-3 flex flex-wrap gap-1.5">
        <CommandButton id="page.goUnder">Under</CommandButton>
        <CommandButton id="page.goDeep">Deeper</CommandButton>
        <CommandButton id="page.comeUp">Up</CommandButton>
        <CommandButton id="page.outHere">Out</CommandButton>
        <CommandButton id="edit.split">Split</CommandButton>
        {tape && <CommandButton id="page.exchange">Exchange …</CommandButton>}
        <CommandButton id="page.aside">Set aside</CommandButton>
      </div>
      <p className="pt-1 pb-2 text-[12px] text-faint">Under, up, out and split are set at the playhead.</p>
      <Figure label="Level" value={hanger.gain} unit="dB" onKeep={(dB) => set(hanger, 'gain', clamp(dB, -60, 24), 'level of the sound')} />
      {Boolean(hanger.level?.length) && (
        <div className="flex items-baseline justify-between gap-2 border-b border-rule py-1.5">
          <span>Level points</span>
          <span className="flex items-baseline gap-2">
            <button
              type="button"
              className="text-[12px] text-tape hover:underline"
              onClick={() => set(hanger, 'level', undefined, 'remove the level points')}
            >
              remove all
            </button>
            <b className="pr-6">{hanger.level?.length}</b>
          </span>
        </div>
      )}
      <PanRows
        stops={hanger.pan ?? []}
        onPage={(at) => one.from + at - one.skip}
        onSet={(index, to) => hangers.act(hanger.pan ? setPanStop(one, index, to) : panFrom(one, one.from, to ?? 0), 'where it is heard')}
      />
      <Figure
        label="Fade in"
        value={seconds(hanger.fadeIn)}
        unit="s"
        onKeep={(value) => set(hanger, 'fadeIn', length(value), 'how it comes in')}
      >
        {Boolean(hanger.fadeIn) && (
          <Curve label="Curve in" value={hanger.shapeIn} onKeep={(shape) => set(hanger, 'shapeIn', shape, 'how it comes in')} />
        )}
      </Figure>
      <Figure
        label="Fade out"
        value={seconds(hanger.fadeOut)}
        unit="s"
        onKeep={(value) => set(hanger, 'fadeOut', length(value), 'how it goes out')}
      >
        {Boolean(hanger.fadeOut) && (
          <Curve label="Curve out" value={hanger.shapeOut} onKeep={(shape) => set(hanger, 'shapeOut', shape, 'how it goes out')} />
        )}
      </Figure>
      <label className="flex items-center gap-2 py-2">
        <input
          type="checkbox"
          className="accent-[var(--ink)]"
          checked={Boolean(dip)}
          onChange={() => set(hanger, 'dip', dip ? undefined : USUAL_DIP, dip ? 'stay up under speech' : 'go under speech')}
        />
        Goes under speech
        {dip && below !== null && <span className="ml-auto text-soft">{Math.round(below)} dB below it</span>}
      </label>
      {dip && (
        <>
          <Figure label="Under by" value={dip.dB} unit="dB" onKeep={(dB) => setDip({ dB: clamp(-Math.abs(dB), -60, 0) })} />
          {sections.some(({ is }) => is === 'deep') && (
            <Figure label="Deeper by" value={deepOf(dip)} unit="dB" onKeep={(dB) => setDip({ deep: clamp(-Math.abs(dB), -80, 0) })} />
          )}
          <Figure label="Down over" value={seconds(dip.down)} unit="s" onKeep={(value) => setDip({ down: length(value) })} />
          <Figure label="Back over" value={seconds(dip.back)} unit="s" onKeep={(value) => setDip({ back: length(value) })} />
          <Figure label="Holds pauses under" value={seconds(dip.hold)} unit="s" onKeep={(value) => setDip({ hold: length(value) })} />
        </>
      )}
      {tape && !hanger.goesOn && (
        <label className="flex items-center gap-2 py-2">
          <input
            type="checkbox"
            className="accent-[var(--ink)]"
            checked={hanger.by === 'end'}
            onChange={() => hangers.endWithLastNote(one, hanger.by !== 'end')}
          />
          Ends with its last note
        </label>
      )}
      {tape && !hanger.goesOn && (
        <label className="flex items-center gap-2 py-2">
          <input
            type="checkbox"
            className="accent-[var(--ink)]"
            checked={Boolean(hanger.back)}
            onChange={() => orSay(hangers.repeat(one, !hanger.back))}
          />
          Repeats where it is too short
          {hanger.back && (
            <span className="text-[12px] text-faint" data-testid="repeats">
              from {clock(hanger.back.to)} back to {clock(hanger.back.from)}
            </span>
          )}
        </label>
      )}
      {tape && hanger.by !== 'end' && !hanger.back && (
        <label className="flex items-center gap-2 py-2">
          <input
            type="checkbox"
            className="accent-[var(--ink)]"
            checked={Boolean(hanger.goesOn)}
            onChange={() => set(hanger, 'goesOn', !hanger.goesOn, 'how long it goes on')}
          />
          Goes on where it is too short
        </label>
      )}
      {sections.length > 0 && (
        <ul className="my-2" data-testid="sections">
          {sections.map((section, i) => (
            <li key={i} className="flex items-baseline gap-2 border-b border-rule py-1.5">
              <span className="w-12 font-semibold">{section.is === 'deep' ? 'deeper' : section.is}</span>
              <span className="min-w-0 flex-1 truncate text-soft">{inWords(section.from, null, spine)}</span>
              <button
                type="button"
                className="text-[12px] text-tape hover:underline"
                onClick={() =>
                  set(
                    hanger,
                    'sections',
                    sections.filter((other) => other !== section),
                    'by itself again',
                  )
                }
              >
                remove
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

const clamp = (value: number, least: number, most: number) => Math.max(least, Math.min(most, Math.round(value * 10) / 10))
const length = (seconds: number): Frames => toFrames(Math.max(0, Math.min(60, seconds)))

const Row = ({ name, children }: { name: string; children: ReactNode }) => (
  <div className="flex items-baseline gap-3 border-b border-rule py-1.5">
    <dt className="w-12 shrink-0 text-faint">{name}</dt>
    <dd className="min-w-0 flex-1">{children}</dd>
  </div>
)

function Edge({ name, anchor, hold, spine }: { name: string; anchor: Anchor; hold: Hold; spine: readonly Block[] }) {
  const wrong = whyNot(hold)
  return (
    <Row name={name}>
      {inWords(anchor, hold, spine)}
      {wrong && <span className="block text-[12px] text-cut-ink">{wrong}</span>}
    </Row>
  )
}

/** Where an edge holds, in words: `1.0 s before Copy 2`, `at “nurses” in Copy 2`. */
export function inWords(anchor: Anchor, hold: Hold | null, spine: readonly Block[]): string {
  if (!('block' in anchor)) return `at ${clock(anchor.at)}`
  const block = spine.find(({ id }) => id === (hold?.block ?? anchor.block))
  const alike = block && spine.filter(({ kind }) => kind === block.kind)
  const which = block && alike && alike.length > 1 ? ` ${alike.indexOf(block) + 1}` : ''
  const what = block ? `${BLOCK_KINDS[block.kind] && BLOCK_NAMES[block.kind]}${which}` : 'a block that is gone'
  const away =
    Math.abs(anchor.offset) < RATE / 20 ? '' : `${(Math.abs(anchor.offset) / RATE).toFixed(1)} s ${anchor.offset < 0 ? 'before' : 'after'} `
  if (typeof anchor.at === 'string') {
    const edge = anchor.at === 'end' ? 'the end of ' : ''
    return away ? `${away}${edge}${what}` : anchor.at === 'end' ? `with the end of ${what}` : `with ${what}`
  }
  return `${away || 'at '}“${anchor.at.word}” in ${what}`
}
