import { useNavigate } from 'react-router'
import { BLOCK_KINDS, type Block } from '../../core/page/story'
import { RATE, toFrames, type Frames } from '../../core/time'
import type { Handlers } from '../commands/commands'
import { player } from '../sound/player'
import { counted } from '../ui/counted'
import type { useChosen } from '../ui/useChosen'
import { AROUND } from './seam/SeamPanel'
import type { PageDialog } from './PageDialogs'
import type { useBlockActs } from './useBlockActs'
import type { usePagePlaying } from './usePagePlaying'
import type { usePage } from './laid/usePage'

const NOT_IN_IT = 'Put the playhead within an actuality first; copy is split with ↵.'
const CHOOSE = 'Choose a block first.'
/** What the keys move the beginning of a block by. */
const STEP: Frames = toFrames(0.1)
const FINE: Frames = toFrames(0.01)

interface OnPage {
  page: ReturnType<typeof usePage>
  chosen: ReturnType<typeof useChosen<Block>>
  acts: ReturnType<typeof useBlockActs>
  playback: ReturnType<typeof usePagePlaying>
  ask: (dialog: PageDialog) => void
  backtimes: { shown: boolean; show: (shown: boolean) => void }
  countdown: { shown: boolean; show: (shown: boolean) => void }
  splitPieceAt: (block: Block, place: Frames) => Promise<void>
  clipboard: Clipboard
  seam: { shown: boolean; show: (shown: boolean) => void }
}

/** What was copied on the page: blocks by their ids, or a sound of the lanes. */
export interface Clipboard {
  blocks: readonly string[]
  copy: (blocks: readonly string[]) => void
  /** Puts the sound that was copied at the playhead; null where no sound was. */
  pasteSound: (() => void) | null
}

/** What the keys do on a page: playing it, going through its blocks, and what is done to them. */
export function usePageCommands({ page, chosen, acts, playback, ask, backtimes, countdown, clipboard, seam, splitPieceAt }: OnPage) {
  const navigate = useNavigate()
  const { spine, plan, layout } = page
  const { playing, place, playFrom, rehearse, jump } = playback
  const index = chosen.active ? spine.indexOf(chosen.active) : -1
  const the = chosen.all.length > 1 ? `${chosen.all.length} blocks` : 'the block'
  const empty = spine.length ? null : 'The page is empty.'
  const none = index < 0 ? CHOOSE : null
  const row = layout.placed.find(({ block }) => block === chosen.active)
  const tidied = piecesToTidy(chosen.all, spine)

  const step = (by: 1 | -1) => {
    const next = spine[Math.min(spine.length - 1, Math.max(0, index < 0 ? 0 : index + by))]
    if (!next) return
    chosen.choose(next.id)
    document.getElementById(`block-${next.id}`)?.scrollIntoView({ block: 'nearest' })
  }
  const extend = (by: 1 | -1) => {
    const next = spine[index + by]
    if (next) chosen.chooseAsFarAs(next.id)
  }
  const writeOrOpen = () => {
    const block = chosen.active
    if (block && !BLOCK_KINDS[block.kind].written) void (block.piece && navigate(`/pieces/${block.piece}`))
    else if (block) document.querySelector<HTMLTextAreaElement>(`#block-${block.id} textarea`)?.focus()
  }
  const atEnd = (end: Block | undefined, words: string) => none ?? (end && chosen.is(end.id) && chosen.all.length === 1 ? words : null)

  return {
    'play.toggle': () => (playing ? player.stop() : playFrom(place())),
    'page.rehearse': { unable: empty, run: () => spine.length && rehearse(spine[Math.max(0, index)].id) },
    'play.back': () => jump(place() - 2 * RATE),
    'play.forward': () => jump(place() + 2 * RATE),
    'play.start': () => jump(0),
    'play.end': () => jump(layout.length),
    'page.previous': () => step(-1),
    'page.next': () => step(1),
    'page.up': {
      run: () => chosen.all.length && acts.moveChosen(-1),
      title: `Move ${the} up`,
      unable: atEnd(spine[0], 'It is the first block.'),
    },
    'page.down': {
      run: () => chosen.all.length && acts.moveChosen(1),
      title: `Move ${the} down`,
      unable: atEnd(spine[spine.length - 1], 'It is the last block.'),
    },
    'join.gapShorter': { run: () => acts.nudge(-STEP), title: 'Block begins 0.1 s sooner', free: true, unable: none },
    'join.gapLonger': { run: () => acts.nudge(STEP), title: 'Block begins 0.1 s later', free: true, unable: none },
    'join.gapLess': { run: () => acts.nudge(-FINE), title: 'Block begins 10 ms sooner', free: true, unable: none },
    'join.gapMore': { run: () => acts.nudge(FINE), title: 'Block begins 10 ms later', free: true, unable: none },
    'page.seam': { run: () => seam.show(!seam.shown), on: seam.shown, unable: seam.shown ? null : none },
    'play.across': {
      run: () => chosen.active && playback.playAcross(chosen.active, AROUND),
      title: 'Play across where the block begins',
      free: true,
      unable: none,
    },
    'join.gapUsual': { run: () => acts.begin(0), title: 'Block follows the one above at once', free: true, unable: none },
    'play.loop': {
      run: () => playback.loop(chosen.all),
      title: chosen.all.length ? `Loop ${the}` : 'Loop the page',
      free: true,
      unable: empty,
    },
    'page.extendUp': () => extend(-1),
    'page.extendDown': () => extend(1),
    'page.write': { unable: none, run: writeOrOpen },
    'edit.split': {
      run: () => chosen.active && row && splitPieceAt(chosen.active, place() - row.from),
      title: 'Split the block at the playhead',
      unable: none ?? (row && !BLOCK_KINDS[row.block.kind].written && place() > row.from && place() < row.to ? null : NOT_IN_IT),
    },
    'page.duplicate': { run: () => acts.again(chosen.all), title: `Duplicate ${the}`, unable: none },
    'edit.copy': { run: () => clipboard.copy(chosen.all.map(({ id }) => id)), title: `Copy ${the}`, free: true, unable: none },
    'edit.paste': {
      run: () => (clipboard.pasteSound ? clipboard.pasteSound() : acts.again(spine.filter(({ id }) => clipboard.blocks.includes(id)))),
      title: clipboard.pasteSound ? 'Paste the sound at the playhead' : 'Paste the blocks below',
      unable: clipboard.pasteSound || clipboard.blocks.length ? null : 'Nothing was copied on this page.',
    },
    'page.panLeft': { run: () => acts.pan(-0.1), title: `Pan ${the} to the left`, unable: none },
    'page.panRight': { run: () => acts.pan(0.1), title: `Pan ${the} to the right`, unable: none },
    'page.aside': {
      run: () => chosen.all.length && acts.asideChosen(),
      title: page.isFirst ? (chosen.all.length > 1 ? `Set ${the} aside` : 'Set aside') : `Leave ${the} out of this output`,
      unable: none,
    },
    'page.addCopy': () => acts.add('copy'),
    'page.addIntro': () => acts.add('intro'),
    'page.addActuality': () => ask({ ask: 'piece', kind: 'actuality' }),
    'page.addFull': () => ask({ ask: 'piece', kind: 'full' }),
    'page.addTag': () => acts.add('tag'),
    'page.addSoc': () => acts.add('soc'),
    'page.send': () => ask({ ask: 'send' }),
    'tidy.open': {
      run: () => tidied.length && ask({ ask: 'tidy', pieces: tidied }),
      title: tidied.length ? `Tidy ${counted(tidied.length, 'piece')}: pauses, fillers, stumbles` : 'Tidy the pieces',
      unable: tidied.length ? null : 'There is no piece on the page yet.',
    },
    'view.figures': { run: () => ask({ ask: 'figures' }), unable: plan?.length ? null : 'There is nothing to measure.' },
    'page.backtimes': {
      run: () => backtimes.show(!backtimes.shown),
      on: backtimes.shown,
      title: backtimes.shown ? 'Show when blocks begin' : 'Show backtimes: when each block must begin',
      unable: backtimes.shown || page.output.slot ? null : 'The page has no slot yet.',
    },
    'page.countdown': { run: () => countdown.show(!countdown.shown), on: countdown.shown, unable: empty },
    'select.clear': () => chosen.choose(null),
    'go.up': () => void navigate('/'),
    'page.layUnder': {
      run: () => ask({ ask: 'under' }),
      title: chosen.all.length ? `Lay sound under ${the}` : 'Lay sound under from the playhead',
      unable: empty,
    },
  } satisfies Handlers
}

/** What sounds in the chosen blocks; where nothing does, all actualities of the page. */
function piecesToTidy(chosen: readonly Block[], spine: readonly Block[]): string[] {
  const own = chosen.flatMap(({ piece }) => piece ?? [])
  const all = spine.flatMap(({ kind, piece }) => (BLOCK_KINDS[kind].written ? [] : (piece ?? [])))
  return [...new Set(own.length ? own : all)]
}
