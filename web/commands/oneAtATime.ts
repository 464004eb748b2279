import { toast } from 'sonner'
import type { Handlers } from './commands'
import { commandOf, type CommandId } from './table'

/** What acts on several passages as on one. */
const ON_MANY = new Set<CommandId>([
  'edit.takeOut',
  'edit.holdTime',
  'edit.setAside',
  'edit.mute',
  'edit.copy',
  'edit.pull',
  'edit.offRecord',
  'level.softer',
  'level.louder',
  'level.breath',
  'level.off',
  'play.selection',
  'play.loop',
])
/** What acts on what is selected though it does not need it: with several it would mean something else. */
const WOULD_MEAN_ALL = new Set<CommandId>([
  'page.send',
  'view.figures',
  'off.patches',
  'off.fades',
  'off.all',
  'edit.bringBack',
  'edit.paste',
  'join.gapShorter',
  'join.gapLonger',
  'join.gapUsual',
  'page.up',
  'page.down',
  'voice.mute',
  'voice.earlier',
  'voice.later',
  'level.onTape',
  'words.correct',
])

const ONE = 'This works on one passage at a time.'

/** While several passages are chosen, commands that work on one say so and do nothing: several are never taken for one, or for all. */
export function oneAtATime(handlers: Handlers, several: boolean): Handlers {
  if (!several) return handlers
  const guarded: Handlers = {}
  for (const [id, does] of Object.entries(handlers) as [CommandId, NonNullable<Handlers[CommandId]>][]) {
    const ofSelection = (commandOf(id).needs === 'selection' && !id.startsWith('select.')) || WOULD_MEAN_ALL.has(id)
    const title = typeof does === 'function' ? undefined : does.title
    guarded[id] = !ofSelection || ON_MANY.has(id) ? does : { run: () => void toast(ONE), title, unable: ONE }
  }
  return guarded
}
