import { useMemo, useState } from 'react'
import { toast } from 'sonner'
import { clipLength, type Actuality } from '../../../core/edits/actuality'
import { isRoom } from '../../../core/edits/editList'
import { pieceWords } from '../../../core/edits/pieceWords'
import { fitted } from '../../../core/fit/apply'
import { RANKS, type Change } from '../../../core/fit/change'
import { fit } from '../../../core/fit/fit'
import { offers, type FitBlock } from '../../../core/fit/offers'
import { lay, type OutputLayout } from '../../../core/page/lay'
import { outputPlan } from '../../../core/page/plan'
import { saidIn } from '../../../core/page/said'
import { inOutput, storyType, type Block, type StoryDocument, type StoryStep } from '../../../core/page/story'
import { changedText } from '../../../core/steps/text'
import type { FactsOf } from '../../../core/render/plan'
import { applyAll } from '../../../core/steps/document'
import { RATE, type Frames } from '../../../core/time'
import { put } from '../../api/client'
import type { Handlers } from '../../commands/commands'
import type { LiveDocument } from '../../documents/liveDocument'
import { player } from '../../sound/player'
import type { usePage } from '../laid/usePage'

/** Heard around a change, before it and after it. */
const [BEFORE, AFTER]: Frames[] = [1.5 * RATE, 2.5 * RATE]

interface OnPage {
  owner: string
  live: LiveDocument<'story'>
  body: StoryDocument
  page: ReturnType<typeof usePage>
}

/** A page as it would be with some changes: its document, its pieces, and how it lies. */
interface Would {
  steps: StoryStep[]
  made: { id: string; piece: Actuality }[]
  known: ReadonlyMap<string, Actuality>
  laid: OutputLayout
}

/** The plan that brings a page to its slot: which changes, which of them count, and what comes of them. */
export function useFit({ owner, live, body, page }: OnPage) {
  const { output, air, known, facts } = page
  const [open, setOpen] = useState(false)
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set())
  const [at, setAt] = useState<string | null>(null)
  const over = air.length - output.slot
  const showing = open && facts !== null && output.slot > 0

  const blocks = useMemo(
    (): FitBlock[] =>
      showing
        ? air.placed.map((row) => {
            const piece = row.block.piece ? known.get(row.block.piece) : undefined
            const words = piece ? pieceWords(piece.spans, facts!.wordsOf, piece.sides) : []
            const { head = 0, tail = 0 } = piece ?? {}
            return {
              row,
              piece: piece ? { length: clipLength(piece), head, tail, words, beyond: beyondOf(piece, facts!.factsOf) } : null,
              guest: row.block.kind === 'actuality',
            }
          })
        : [],
    [showing, air, known, facts],
  )
  const offered = useMemo(() => (over ? offers(blocks, over > 0) : []), [blocks, over])
  const plan = useMemo(
    () =>
      fit(
        offered.filter(({ id }) => !left.has(id)),
        over,
      ),
    [offered, left, over],
  )
  /** What was left out by hand stays in the list, so that it can be ticked again. */
  const listed = useMemo(
    () =>
      offered
        .flatMap((change) => plan.changes.find(({ id }) => id === change.id) ?? (left.has(change.id) ? change : []))
        .sort((a, b) => RANKS.indexOf(a.rank) - RANKS.indexOf(b.rank)),
    [offered, plan, left],
  )
  const would = (changes: readonly Change[], room: Frames): Would => {
    const pieces = new Map(known)
    const made: Would['made'] = []
    const steps = fitted(air.placed, changes, (id) => known.get(id), room).flatMap((one): StoryStep[] => {
      if (!one.piece) return one.steps
      const id = crypto.randomUUID()
      const { kept: _, ...piece } = one.piece
      made.push({ id, piece: { ...piece, slug: `${piece.slug}, ${over > 0 ? 'shorter' : 'longer'}` } })
      pieces.set(id, one.piece)
      return [...one.steps, { type: 'set', id: one.block, key: 'piece', value: id }]
    })
    const lengthOf = (id: string) => {
      const found = pieces.get(id)
      return found && { length: clipLength(found), head: found.head, tail: found.tail }
    }
    const said = (id: string) => {
      const found = pieces.get(id)
      return found && facts ? saidIn(found, facts.wordsOf) : undefined
    }
    const own = page.isFirst ? steps : allInThis(body, output.id, steps)
    const laid = lay(applyAll(storyType, body, own), { lengthOf, saidIn: said }).find((one) => one.output.id === output.id)!
    return { steps: own, made, known: pieces, laid }
  }
  const runs = useMemo(
    () => (showing ? would(plan.changes, plan.tooMuch).laid.air.length : air.length),
    // what it is made of is in the plan
    // oxlint-disable-next-line react-hooks/exhaustive-deps
    [showing, plan, air],
  )

  /** Plays around a change: the page as it is, or with that change alone. */
  const hear = (change: Change, as: 'result' | 'original') => {
    if (!facts) return
    const now = as === 'result' ? would([change], 0) : { laid: { air }, known }
    const row = now.laid.air.placed.find(({ block }) => block.id === change.block)
    if (!row) return
    const { deed } = change
    const place = deed.do === 'cut' ? row.from + deed.cuts[0].from : row.at
    const heard = outputPlan(now.laid.air, output, (id) => now.known.get(id), facts.factsOf)
    player.load(`${owner}/fit`, heard)
    void player.play(Math.max(0, place - BEFORE), Math.min(heard.length, place + AFTER))
  }
  const apply = async () => {
    if (!plan.changes.length) return
    const { steps, made } = would(plan.changes, plan.tooMuch)
    try {
      await Promise.all(made.map(({ id, piece }) => put(`/documents/${id}`, piece)))
    } catch (error) {
      return void toast.error((error as Error).message)
    }
    live.act(steps, { label: 'fit to slot' })
    setOpen(false)
    toast.success(plan.missing ? 'As near as it comes without more harm.' : 'In its slot.')
  }
  const chosen = listed.find(({ id }) => id === at) ?? null
  const step = (by: 1 | -1) => {
    const index = chosen ? listed.indexOf(chosen) : by > 0 ? -1 : listed.length
    setAt((listed[index + by] ?? chosen)?.id ?? null)
  }
  const toggle = ({ id }: Change) => {
    const next = new Set(left)
    if (!next.delete(id)) next.add(id)
    setLeft(next)
  }
  const unable = !output.slot ? 'Set a slot first.' : over === 0 ? 'It is on time.' : null
  const commands = {
    'page.fit': {
      run: () => (showing ? void apply() : (setLeft(new Set()), setOpen(true))),
      title: showing ? 'Apply the plan' : 'Fit to slot',
      unable,
    },
  } satisfies Handlers
  /** What keys do in place of what they do on the page, while the plan is shown. */
  const instead: Handlers = showing
    ? {
        'join.next': { run: () => step(1), title: 'Next change', free: true },
        'join.previous': { run: () => step(-1), title: 'Previous change', free: true },
        'play.across': { run: () => chosen && hear(chosen, 'result'), title: 'Play with the change', free: true },
        'play.before': { run: () => chosen && hear(chosen, 'original'), title: 'Play as it is', free: true },
        'edit.takeOut': { run: () => chosen && toggle(chosen), title: 'Tick or untick the change', free: true },
        'page.aside': { run: () => chosen && toggle(chosen), title: 'Tick or untick the change' },
        'select.clear': { run: () => setOpen(false), title: 'Close the plan' },
      }
    : {}
  return {
    open: showing,
    over,
    listed,
    left,
    plan,
    runs,
    chosen,
    choose: (change: Change) => setAt(change.id),
    toggle,
    hear,
    apply,
    close: () => setOpen(false),
    commands,
    instead,
  }
}

export type FitPlan = ReturnType<typeof useFit>

/** How much more of its tape there is after a piece. */
function beyondOf({ spans }: Actuality, factsOf: FactsOf): Frames {
  const last = spans[spans.length - 1]
  return isRoom(last) || last.patch ? 0 : Math.max(0, factsOf(last.tape).frames - last.to)
}

/** Steps on blocks as steps on what another output has otherwise, each on the page as those before it left it. */
function allInThis(body: StoryDocument, output: string, steps: readonly StoryStep[]): StoryStep[] {
  let now = body
  return steps.flatMap((step) => {
    const own = inThis(now, output, step)
    now = applyAll(storyType, now, own)
    return own
  })
}

/** A step on a block as one on what another output has otherwise. */
function inThis(body: StoryDocument, output: string, step: StoryStep): StoryStep[] {
  if (step.type === 'set') return inOutput(body, output, step.id, { [step.key]: step.value })
  const block = step.type === 'write' && (body.records[step.id] as Block)
  return block && step.type === 'write' ? inOutput(body, output, block.id, { text: changedText(block.text, step.change) }) : []
}
