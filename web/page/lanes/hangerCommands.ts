import { addLevelPoint, intoSound, levelPointAt, panFrom, setLevelPoint } from '../../../core/page/hangerActs'
import { RATE, toFrames, type Frames } from '../../../core/time'
import { orSay } from '../../api/orSay'
import type { Handlers } from '../../commands/commands'
import { clampDB, type Hangers } from './useHangers'

/** What the keys move an edge by. */
const STEP: Frames = toFrames(0.1)
const STEP_DB = 1.5
const STEP_PAN = 0.1
/** What they move a level point by. */
const POINT_STEP: Frames = RATE / 100

interface OnPage {
  place: () => Frames
  jump: (at: Frames) => void
  /** Asks for another tape in place of the chosen sound's. */
  askForTape: () => void
  /** Keeps a sound to be put elsewhere. */
  copy: (hanger: string) => void
}

/**
 * What the keys do with the sounds in the lanes: going through them, and what is done with the one that is chosen, which takes
 * keys over from the page (`instead`).
 */
export function hangerCommands(hangers: Hangers, { place, jump, askForTape, copy }: OnPage) {
  const { placed, chosen, act } = hangers
  const none = placed.length ? null : 'Nothing lies in the lanes.'
  const unable = chosen ? null : 'Choose a sound in the lanes first.'
  const ofTape = unable ?? ('tape' in chosen!.hanger.plays ? null : 'It is a piece: exchange it on the Bench.')
  const step = (by: 1 | -1) => {
    const inOrder = [...placed].sort((a, b) => a.from - b.from)
    const at = inOrder.findIndex(({ hanger }) => hanger.id === chosen?.hanger.id)
    const next = inOrder[at < 0 ? (by > 0 ? 0 : inOrder.length - 1) : at + by]
    if (next) hangers.choose(next.hanger.id)
  }
  const commands = {
    'join.previous': { run: () => step(-1), title: 'Sound before', free: true, unable: none },
    'join.next': { run: () => step(1), title: 'Next sound', free: true, unable: none },
    'page.goUnder': { run: () => chosen && hangers.turn(chosen, 'under'), unable },
    'page.goDeep': { run: () => chosen && hangers.turn(chosen, 'deep'), unable },
    'page.comeUp': { run: () => chosen && hangers.turn(chosen, 'up'), unable },
    'page.outHere': { run: () => chosen && hangers.move(chosen, 'end', place() - chosen.to), unable },
    'page.repeat': {
      run: () => chosen && orSay(hangers.repeat(chosen, !chosen.hanger.back)),
      unable: ofTape,
      on: Boolean(chosen?.hanger.back),
    },
    'page.exchange': { run: () => chosen && askForTape(), unable: ofTape },
  } satisfies Handlers
  if (!chosen) return { commands, instead: {} }

  const point = levelPointAt(chosen, place())
  const noPoint = point ? null : 'Put the playhead on a level point first.'
  const points = chosen.hanger.level ?? []
  const onPage = (at: Frames) => chosen.from + at - chosen.skip
  const toPoint = (by: 1 | -1) => {
    const here = intoSound(chosen, place())
    const next = by > 0 ? points.find(({ at }) => at > here + 1) : points.findLast(({ at }) => at < here - 1)
    if (next) jump(onPage(next.at))
  }
  const movePoint = (by: Frames) => {
    if (!point) return
    act(setLevelPoint(chosen, point, { ...point, at: point.at + by }), 'move a level point')
    jump(onPage(point.at + by))
  }
  const louder = (by: number) => {
    if (point) return act(setLevelPoint(chosen, point, { ...point, dB: point.dB + by }), 'level point')
    hangers.set(chosen.hanger, 'gain', clampDB(chosen.hanger.gain + by), 'level of the sound')
  }
  const pan = (by: number) => {
    const here = intoSound(chosen, place())
    const now = chosen.hanger.pan?.findLast(({ at }) => at <= here)?.to ?? chosen.hanger.pan?.[0]?.to ?? 0
    act(panFrom(chosen, place(), Math.max(-1, Math.min(1, Math.round((now + by) * 100) / 100))), 'pan')
  }
  const moving = (edge: 'start' | 'end', by: Frames, title: string) => ({
    title,
    free: true,
    run: () => hangers.move(chosen, edge, by, false),
  })
  const what = point ? 'Level point' : 'Sound'
  const instead: Handlers = {
    'join.leftEarlier': moving('start', -STEP, 'Sound begins earlier'),
    'join.leftLater': moving('start', STEP, 'Sound begins later'),
    'join.rightEarlier': moving('end', -STEP, 'Sound ends earlier'),
    'join.rightLater': moving('end', STEP, 'Sound ends later'),
    'join.cutEarlier': { run: () => hangers.slip(chosen, -STEP), title: 'Earlier sound between the same edges', free: true },
    'join.cutLater': { run: () => hangers.slip(chosen, STEP), title: 'Later sound between the same edges', free: true },
    'level.softer': { run: () => louder(-STEP_DB), title: `${what} softer by 1.5 dB`, free: true },
    'level.louder': { run: () => louder(STEP_DB), title: `${what} louder by 1.5 dB`, free: true },
    'level.pointAdd': { run: () => act(addLevelPoint(chosen, place()), 'add a level point'), title: 'Add a level point to the sound' },
    'level.pointBack': { run: () => toPoint(-1) },
    'level.pointOn': { run: () => toPoint(1) },
    'level.pointEarlier': { run: () => movePoint(-POINT_STEP), unable: noPoint },
    'level.pointLater': { run: () => movePoint(POINT_STEP), unable: noPoint },
    'level.pointRemove': { run: () => point && act(setLevelPoint(chosen, point, null), 'remove a level point'), unable: noPoint },
    'page.panLeft': { run: () => pan(-STEP_PAN), title: 'Pan the sound to the left, from the playhead on' },
    'page.panRight': { run: () => pan(STEP_PAN), title: 'Pan the sound to the right, from the playhead on' },
    'edit.split': { run: () => hangers.split(chosen), title: 'Split the sound at the playhead' },
    'page.duplicate': { run: () => hangers.copyTo(chosen, chosen.to), title: 'Duplicate the sound after itself' },
    'edit.copy': { run: () => copy(chosen.hanger.id), title: 'Copy the sound', free: true },
    'edit.mute': {
      run: () => hangers.setLane(chosen.lane, 'muted', !chosen.lane.muted, 'mute a lane'),
      title: 'Mute / unmute its lane',
    },
    'page.aside': { run: () => hangers.remove(chosen), title: 'Set the sound aside' },
    'select.clear': { run: () => hangers.choose(null), title: 'Let go of the sound' },
  }
  return { commands, instead }
}
