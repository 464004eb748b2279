import { useEffect, useMemo } from 'react'
import { toast } from 'sonner'
import type { Nick } from '../../../core/edits/gone'
import { isRoom, plainJoin, toTape, type Join, type Span } from '../../../core/edits/editList'
import { fillHeld, layPatch, SHORTEST_FILL, takeOffPatch, type PatchPlace } from '../../../core/edits/patch'
import { piecePlan } from '../../../core/page/plan'
import { bridge, LONGEST_BRIDGE } from '../../../core/patch/bridge'
import { planOf } from '../../../core/render/plan'
import { wholeTape } from '../../../core/edits/ofTape'
import { milliseconds, RATE, type Frames, type Stretch } from '../../../core/time'
import { loudnessOf } from '../../sound/hear'
import { player } from '../../sound/player'
import { samples } from '../../sound/samples'
import { copied, type Bench } from '../bench'
import { withPlacedJoins } from '../../joins/placedJoins'
import { laying, spotAt, usePatching } from './usePatching'
import { followPlace } from '../whileWaiting'

/** Around a spot that is being patched, this much is played. */
const AROUND = milliseconds(1400)
/** What bridges a click comes from no further away. */
const BRIDGE_FROM = milliseconds(130)

/** Levels are compared by what is said within this of a place, and changed by no more than that, in dB. */
const LEVEL_AROUND = milliseconds(1500)
const MOST_LEVEL = 12

/** All ways to lay sound over sound. `chosenNick`: what was taken out at the join that is worked on. */
export function usePatchActs(
  { owner, live, piece, plan, factsOf, wordsOf, selected, select, deselect, setChosen, act, asEdited }: Bench,
  chosenNick: () => Nick | undefined,
) {
  const { patching, begin, choose, leave: forget, follow } = usePatching(piece)
  const trialPlan = useMemo(() => (patching?.trial ? piecePlan(patching.trial, factsOf) : null), [patching?.trial, factsOf])
  // what is offered is heard in its place as soon as it is chosen
  useEffect(() => {
    if (!patching || !trialPlan) return
    player.load(owner, trialPlan)
    void player.play(Math.max(0, patching.spot.inPiece.from - AROUND), Math.min(trialPlan.length, patching.spot.inPiece.to + AROUND))
    // once for each that is chosen
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [trialPlan])

  const leave = () => {
    player.stop()
    player.load(owner, plan)
    forget()
  }
  const find = (by: 1 | -1) => {
    if (patching?.twins?.length) return choose((patching.current + by + patching.twins.length) % patching.twins.length)
    if (patching) return
    if (!selected) return void toast('Select the bad spot first: a cough, a knock, a spoilt word.')
    const spot = selected.to > selected.from ? spotAt(piece, selected) : null
    if (!spot) return void toast('A patch needs one unbroken stretch: select a spot without a join in it.')
    asEdited()
    begin(spot)
  }
  const lay = () => {
    const twin = patching?.twins?.[patching.current]
    if (!patching || !twin) return
    act(laying(live.body, patching.spot, twin), 'patch')
    setChosen(patching.spot.inPiece.from + twin.over.from - patching.spot.onTape.from)
    select(null)
    leave()
  }
  const takeOff = (patch: PatchPlace) => act(takeOffPatch(live.body, patch), 'take the patch off')

  /** Lays what sounds like it over a click. */
  const bridgeClick = async () => {
    const spot = selected && selected.to > selected.from ? spotAt(piece, selected) : null
    if (!spot || spot.inPiece.to - spot.inPiece.from > LONGEST_BRIDGE)
      return void toast('Select just the click: 60 ms at most, without a join in it. Patch anything longer.')
    const tape = factsOf(spot.tape)
    const start = Math.max(0, spot.onTape.from - BRIDGE_FROM)
    const placeNow = followPlace(live, spot.inPiece.from)
    const found = bridge(await samples(tape, start, Math.min(tape.frames, spot.onTape.to + BRIDGE_FROM)), {
      from: spot.onTape.from - start,
      to: spot.onTape.to - start,
    })
    if (!found) return void toast('There is too little sound around the click to bridge it.')
    const join: Join = { fade: milliseconds(2), shape: 'gain', origin: 'hand', heard: false }
    const from = placeNow()
    const there = spotAt(live.body, { from, to: from + spot.inPiece.to - spot.inPiece.from })
    if (there?.onTape.from !== spot.onTape.from || there.onTape.to !== spot.onTape.to) return void toast('That spot was changed meanwhile.')
    deselect(spot.inPiece)
    act(
      layPatch(live.body, there.inPiece, { tape: spot.tape, from: start + found.from, to: start + found.to }, { left: join, right: join }),
      'bridge a click',
    )
    setChosen(there.inPiece.from)
  }

  /** Lays what was copied over what is selected, as loud as what is said there; into held time that is chosen, to fill it. */
  const pasteOver = async () => {
    const [span, ...more] = copied.spans
    const held = !selected && chosenNick()
    if ((!selected && !held) || !span)
      return void toast(span ? 'Select what to paste over, or choose held time.' : 'Nothing is copied yet.')
    if (more.length || isRoom(span)) return void toast('Copy one unbroken stretch of tape, without a join in it.')
    const { tape, from, to } = span
    if (held) return fill({ from: held.at, to: held.at + held.held }, { tape, from, to })
    if (!selected) return
    select(null)
    const placeNow = followPlace(live, selected.from)
    const endNow = followPlace(live, selected.to)
    const level = await levelFor(span, selected)
    const over = { from: placeNow(), to: endNow() }
    if (over.to <= over.from) return void toast('What was selected was taken out meanwhile.')
    const now = live.body
    const steps = layPatch(now, over, { tape, from, to, level, own: true }, { left: plainJoin(), right: plainJoin() })
    const places = [over.from, over.from + to - from].filter((at) => at > 0)
    void live.actAtOnce(steps, { label: 'lay over' }, withPlacedJoins(now, steps, places, factsOf, wordsOf))
    setChosen(over.from)
  }
  const fill = (stretch: Stretch, sound: Stretch & { tape: string }) => {
    const steps = fillHeld(live.body, stretch, sound)
    if (!steps.length)
      return void toast(
        `That is too short to fill ${((stretch.to - stretch.from) / RATE).toFixed(1)} s without an audible pattern: copy at
          least ${(SHORTEST_FILL / RATE).toFixed(1)} s.`,
      )
    act(steps, 'fill held time')
  }
  /** What makes sound from elsewhere as loud as what is said around a place, in dB. */
  const levelFor = async ({ tape, from, to }: Span, over: Stretch): Promise<number> => {
    const place = toTape(piece.spans, over.from)
    if (!place) return 0
    const around = (id: string, a: Frames, b: Frames) => {
      const { frames } = factsOf(id)
      return loudnessOf(planOf(wholeTape(id, frames), factsOf), {
        from: Math.max(0, a - LEVEL_AROUND),
        to: Math.min(frames, b + LEVEL_AROUND),
      })
    }
    try {
      const by = (await around(place.tape, place.frame, place.frame + over.to - over.from)) - (await around(tape, from, to))
      return Number.isFinite(by) ? Math.round(10 * Math.max(-MOST_LEVEL, Math.min(MOST_LEVEL, by))) / 10 : 0
    } catch {
      return 0
    }
  }

  const commands = {
    'patch.find': () => find(1),
    'patch.back': () => find(-1),
    'patch.bridge': () => void bridgeClick(),
    'edit.pasteOver': () => void pasteOver(),
  }
  return { patching, choose, lay, leave, takeOff, follow, commands }
}
