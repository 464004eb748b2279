import type { MendStep } from '../../core/mend/chain'
import { keptNow, useKept } from '../ui/useKept'

/** Settings that are tried on one side beside each other, up to four, and the one of them that is heard and changed. */
export interface Settings {
  slots: readonly (readonly MendStep[])[]
  /** Which one; null: the side as recorded. */
  active: number | null
}

export const SLOT_NAMES = ['A', 'B', 'C', 'D'] as const
const NONE: Settings = { slots: [], active: null }
const NO_STEPS: readonly MendStep[] = []

/** What is tried on a side, which `of` names, kept while one is elsewhere. It begins with the steps that were applied. */
export function useSettings(of: string, applied: readonly MendStep[]) {
  const name = `mend/${of}`
  const [{ slots, active }, setSettings] = useKept<Settings>(name, NONE)
  const stepsOf = (settings: Settings): readonly MendStep[] =>
    settings.slots.length ? (settings.active === null ? NO_STEPS : settings.slots[settings.active]) : applied

  /** Changes the one that is heard, as it is by now; without any, the first one begins. */
  const edit = (change: (steps: readonly MendStep[]) => readonly MendStep[]) => {
    const settings = keptNow.get(name, NONE)
    const next = change(stepsOf(settings))
    const at = settings.active ?? Math.max(0, settings.slots.length - 1)
    setSettings({ slots: settings.slots.length ? settings.slots.map((one, i) => (i === at ? next : one)) : [next], active: at })
  }
  /** Hears another one; the next free one begins as a copy of what is heard. */
  const choose = (slot: number | null) => {
    if (slot === null || slot < slots.length) return setSettings({ slots, active: slot })
    const all = slots.length ? slots : [applied]
    setSettings({ slots: [...all, active === null ? all[all.length - 1] : all[active]], active: all.length })
  }
  /** The next one in turn, the original among them. */
  const next = () => {
    const order = [null, ...slots.keys()]
    setSettings({ slots, active: order[(order.indexOf(active) + 1) % order.length] })
  }
  const clear = () => setSettings(NONE)
  return { slots, active, steps: stepsOf({ slots, active }), edit, choose, next, clear, trying: slots.length > 0 }
}
