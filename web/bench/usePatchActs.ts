import { useEffect, useMemo } from 'react'
import { toast } from 'sonner'
import type { AnyStep } from '../../contract/documents'
import type { Actuality } from '../../core/edits/actuality'
import { isRoom, plainJoin, type Join } from '../../core/edits/editList'
import { layPatch, takeOffPatch, type PatchPlace } from '../../core/edits/patch'
import { piecePlan } from '../../core/page/plan'
import { bridge, LONGEST_BRIDGE } from '../../core/patch/bridge'
import { milliseconds } from '../../core/time'
import { player } from '../sound/player'
import { samples } from '../sound/samples'
import { copied, type Bench } from './bench'
import { withPlacedJoins } from './placedJoins'
import { laying, spotAt, usePatching } from './usePatching'

/** Around a spot that is being patched, this much is played. */
const AROUND = milliseconds(1400)
/** What bridges a click comes from no further away. */
const BRIDGE_FROM = milliseconds(130)

/** All ways to lay sound over sound. */
export function usePatchActs({ owner, live, piece, plan, factsOf, wordsOf, selected, unselect, setChosen, act, asEdited }: Bench) {
  const { patching, begin, choose, leave: forget } = usePatching(piece)
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
    if (!selected) return void toast('Select the bad spot first: a cough, a knock, a word that is spoilt.')
    const spot = selected.to > selected.from ? spotAt(piece, selected) : null
    if (!spot) return void toast('A patch lies within one stretch of tape: select a spot with no cut in it.')
    asEdited()
    begin(spot)
  }
  const lay = () => {
    const twin = patching?.twins?.[patching.current]
    if (!patching || !twin) return
    act(laying(live.body as Actuality, patching.spot, twin), 'patch')
    setChosen(patching.spot.inPiece.from + twin.over.from - patching.spot.onTape.from)
    unselect()
    leave()
  }
  const takeOff = (patch: PatchPlace) => act(takeOffPatch(live.body as Actuality, patch), 'take the patch off')

  /** Lays what sounds like it over a click. */
  const bridgeClick = async () => {
    const spot = selected && selected.to > selected.from ? spotAt(piece, selected) : null
    if (!spot || spot.inPiece.to - spot.inPiece.from > LONGEST_BRIDGE) return void toast('Select the click alone, 60 ms at most and with no cut in it. What is longer can be patched.')
    const tape = factsOf(spot.tape)
    const start = Math.max(0, spot.onTape.from - BRIDGE_FROM)
    const found = bridge(await samples(tape, start, Math.min(tape.frames, spot.onTape.to + BRIDGE_FROM)), { from: spot.onTape.from - start, to: spot.onTape.to - start })
    if (!found) return void toast('There is too little sound around it to bridge it.')
    const join: Join = { fade: milliseconds(2), shape: 'gain', origin: 'hand', heard: false }
    act(layPatch(live.body as Actuality, spot.inPiece, { tape: spot.tape, from: start + found.from, to: start + found.to }, { left: join, right: join }), 'bridge a click')
    setChosen(spot.inPiece.from)
    unselect()
  }

  /** Lays what was copied over what is selected. */
  const pasteOver = () => {
    const [span, ...more] = copied.spans
    if (!selected || !span) return void toast(span ? 'Select what it is to be laid over.' : 'Nothing is copied yet.')
    if (more.length || isRoom(span)) return void toast('What is laid over is one stretch of tape: copy one with no cut in it.')
    const now = live.body as Actuality
    const { tape, from, to } = span
    const steps = layPatch(now, selected, { tape, from, to, own: true }, { left: plainJoin(), right: plainJoin() })
    const places = [selected.from, selected.from + to - from].filter((at) => at > 0)
    unselect()
    void live.actAtOnce(steps as AnyStep[], { label: 'lay over' }, withPlacedJoins(now, steps, places, factsOf, wordsOf) as Promise<AnyStep[]>)
    setChosen(selected.from)
  }

  const commands = {
    'patch.find': () => find(1),
    'patch.back': () => find(-1),
    'patch.bridge': () => void bridgeClick(),
    'edit.pasteOver': pasteOver,
    ...(patching ? { 'select.clear': leave } : {}),
  }
  return { patching, choose, lay, leave, takeOff, commands }
}
