import type { EntityManager } from 'typeorm'
import type { AnyStep, Kind } from '../../contract/documents'
import type { ActualityStep } from '../../core/edits/actuality'
import type { EditList } from '../../core/edits/editList'
import type { Hanger, StoryStep } from '../../core/page/story'
import type { Stretch } from '../../core/time'
import type { TranscriptStep } from '../../core/transcript/transcript'
import { Refusal } from '../problem'
import { overlapsAny, united } from '../../core/stretches'

/** What refers to a tape must lie on it, and on the record. */

interface Row {
  id: string
  state: 'arriving' | 'ready' | 'failed'
  frames: string
  off: Stretch[]
}

interface Known {
  /** Null where it is not there, or was refused on arrival. */
  frames: number | null
  /** Whether all of it has arrived. */
  whole: boolean
  off: Stretch[]
}

/** The stretches of tapes that steps lay beside a running order. */
const stretchesOfTape = (steps: readonly StoryStep[]) =>
  steps.flatMap((step) => {
    const plays =
      step.type === 'put' && step.record.kind === 'hanger'
        ? step.record.plays
        : step.type === 'set' && step.key === 'plays'
          ? step.value
          : null
    return plays && 'tape' in (plays as Hanger['plays']) ? [plays as Extract<Hanger['plays'], { tape: string }>] : []
  })

/** A tape that still arrives may be refused yet: it must be held while something refers to it. */
export class MustBeHeld extends Error {}

/** Checks references, each tape looked up once. `hold`: within a transaction, tapes are held until it ends. */
export class References {
  private readonly known = new Map<string, Known>()

  constructor(
    private readonly connection: Pick<EntityManager, 'query'>,
    private readonly hold: boolean,
  ) {}

  /**
   * Throws Refusal where steps refer to what is not there, or is off the record, and MustBeHeld. `tape`: of a transcript,
   * the tape of its words.
   */
  async check(kind: Kind, steps: readonly AnyStep[], tape: string | null): Promise<void> {
    if (kind === 'transcript') return this.checkWords(tape!, steps as TranscriptStep[])
    if (kind === 'actuality')
      return this.checkSpans((steps as ActualityStep[]).flatMap((step) => (step.type === 'replace' ? step.insert : [])))
    if (kind === 'story')
      return this.checkSpans(
        stretchesOfTape(steps as StoryStep[]).map((plays) => ({ ...plays, sound: 'tape' })),
        'a page',
      )
  }

  /** Spans must lie on tapes that are there, within their length, and over nothing that was said off the record. */
  async checkSpans(spans: EditList, into = 'a piece'): Promise<void> {
    const ends = new Map<string, number>()
    const reach = (tape: string, end: number) => ends.set(tape, Math.max(ends.get(tape) ?? 0, end))
    for (const { tape, to, sound, patch } of spans) {
      // added room is as long as it is wanted, wherever its tape ends
      reach(tape, sound === 'room' ? 0 : to)
      if (patch) reach(patch.tape, patch.to)
    }
    await this.reachesTo(ends)
    const taken = spans.flatMap((span) => [...(span.sound === 'tape' ? [span] : []), ...(span.patch ? [span.patch] : [])])
    if (taken.some((one) => overlapsAny(this.known.get(one.tape)!.off, one)))
      throw new Refusal(409, 'Off the record', `Some of that is off the record, so it cannot go into ${into}.`)
  }

  private async checkWords(tape: string, steps: readonly TranscriptStep[]): Promise<void> {
    const ends = steps.flatMap((step) =>
      step.type === 'words' ? step.in.map(({ to }) => to) : step.type === 'times' ? step.moves.map(({ now }) => now.to) : [],
    )
    const end = Math.max(0, ...ends)
    if (end) await this.reachesTo(new Map([[tape, end]]))
  }

  private async reachesTo(ends: ReadonlyMap<string, number>): Promise<void> {
    await this.lookUp([...ends.keys()].filter((tape) => !this.known.has(tape)))
    for (const [tape, end] of ends) {
      const { frames, whole } = this.known.get(tape)!
      if (frames === null) throw new Refusal(422, 'No such tape', 'It refers to a tape that is not there.')
      if (whole && end > frames) throw new Refusal(422, 'Past the end', 'It reaches past the end of the tape.')
    }
  }

  private async lookUp(tapes: readonly string[]): Promise<void> {
    if (!tapes.length) return
    // held until the piece is there: a tape that is here already is not refused from under it
    const rows = await this.connection.query<Row[]>(
      `select t.id, t.state, t.frames, jsonb_path_query_array(d.body, 'lax $.records.* ? (@.kind == "off")') as off
       from tape t join document d on d.id = t.id where t.id = any($1) order by t.id${this.hold ? ' for share of t' : ''}`,
      [tapes],
    )
    if (!this.hold && rows.some(({ state }) => state === 'arriving')) throw new MustBeHeld()
    const there = new Map(rows.map((row) => [row.id, row]))
    for (const tape of tapes) {
      const row = there.get(tape)
      this.known.set(tape, {
        frames: row && row.state !== 'failed' ? Number(row.frames) : null,
        whole: row?.state === 'ready',
        off: united(row?.off ?? []),
      })
    }
  }
}
