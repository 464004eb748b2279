import { createHash } from 'node:crypto'
import type { MigrationInterface, QueryRunner } from 'typeorm'

/** How offcuts and versions were written: as whole lists, each known by the moment when it was kept. */
interface OldKept {
  at: string
  name?: string
  spans: unknown[]
}

export interface OldBody {
  spans: unknown[]
  offcuts?: OldKept[]
  versions?: OldKept[]
  [key: string]: unknown
}

type Step = Record<string, unknown>

const LISTS = { offcuts: 'offcut', versions: 'version' } as const
type List = keyof typeof LISTS
const isList = (key: unknown): key is List => key === 'offcuts' || key === 'versions'

/** The id of what was kept then: the same wherever it is named. Of several of one moment, `nth` tells which. */
function idOf(piece: string, list: List, at: string, nth: number): string {
  const hex = createHash('sha256').update(`${piece} ${list} ${at} ${nth}`).digest('hex')
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`
}

/** A list as records, by id. */
export function recordsOf(piece: string, list: List, values: readonly OldKept[] = []): Map<string, Step & { id: string }> {
  const times = new Map<string, number>()
  return new Map(
    values.map((value) => {
      const nth = times.get(value.at) ?? 0
      times.set(value.at, nth + 1)
      const id = idOf(piece, list, value.at, nth)
      return [id, { ...value, id, kind: LISTS[list] }]
    }),
  )
}

/** The steps that change one list into another, record by record. */
function changes(piece: string, list: List, from: readonly OldKept[], to: readonly OldKept[]): Step[] {
  const [before, after] = [recordsOf(piece, list, from), recordsOf(piece, list, to)]
  const steps: Step[] = []
  for (const id of before.keys()) if (!after.has(id)) steps.push({ type: 'drop', id })
  for (const [id, record] of after) {
    const was = before.get(id)
    if (!was) steps.push({ type: 'put', record })
    else if (was.name !== record.name) steps.push({ type: 'set', id, key: 'name', value: record.name })
  }
  return steps.map((step) => ({ type: 'keep', step }))
}

/** An act that set a whole list, as one that changes single records; what takes it back likewise. */
export function asRecords(piece: string, { steps, inverse }: { steps: Step[]; inverse: Step[] }): { steps: Step[]; inverse: Step[] } {
  // each list is set once in an act: by the inverse it is known what it was
  const valueIn = (some: readonly Step[], key: List) =>
    (some.find((step) => step.type === 'set' && step.key === key)?.value ?? []) as OldKept[]
  const turned = (some: readonly Step[], others: readonly Step[]) =>
    some.flatMap((step) =>
      step.type === 'set' && isList(step.key) ? changes(piece, step.key, valueIn(others, step.key), valueIn(some, step.key)) : [step],
    )
  return { steps: turned(steps, inverse), inverse: turned(inverse, steps) }
}

/**
 * The edit list of a piece, and what is kept beside it, get tables of their own, so that an act writes only what it
 * changes. Which tapes a piece uses, and how long it is, is written by whoever writes the piece.
 */
export class Pieces1765200000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table edit_list (piece uuid primary key references document on delete cascade, revision int not null, spans jsonb not null);
      create table kept (piece uuid not null references document on delete cascade, id uuid not null, record jsonb not null,
        primary key (piece, id));
      drop trigger note_uses on document;
      drop function note_uses;
      insert into piece_use (piece, tape)
        select distinct d.id, used #>> '{}'
        from document d, jsonb_path_query(d.body -> 'spans', 'strict $.**.tape', silent => true) as used
        where d.kind = 'actuality' and jsonb_typeof(used) = 'string' on conflict do nothing;
      alter table piece_use drop column story;
      drop index document_spans;
      alter table document rename column frames to old_frames;
      alter table document add column frames bigint;
      update document set frames = old_frames where kind = 'actuality';
      alter table document drop column old_frames;
      drop function span_frames;`)
    const ids = (await runner.query(`select id from document where kind = 'actuality'`)) as { id: string }[]
    for (const { id } of ids) await this.split(runner, id)
    const entries = (await runner.query(
      `select e.id from entry e join document d on d.id = e.document where d.kind = 'actuality' and
         (e.steps @? '$[*] ? (@.key == "offcuts" || @.key == "versions")'
           or e.inverse @? '$[*] ? (@.key == "offcuts" || @.key == "versions")')`,
    )) as { id: string }[]
    for (const { id } of entries) {
      const [entry] = (await runner.query('select document, steps, inverse from entry where id = $1', [id])) as {
        document: string
        steps: Step[]
        inverse: Step[]
      }[]
      const { steps, inverse } = asRecords(entry.document, entry)
      await runner.query('update entry set steps = $2, inverse = $3 where id = $1', [id, JSON.stringify(steps), JSON.stringify(inverse)])
    }
  }

  private async split(runner: QueryRunner, id: string): Promise<void> {
    const [{ body, revision }] = (await runner.query('select body, revision from document where id = $1', [id])) as {
      body: OldBody
      revision: number
    }[]
    const { spans, offcuts, versions, ...head } = body
    await runner.query('insert into edit_list values ($1, $2, $3)', [id, revision, JSON.stringify(spans)])
    for (const record of [...recordsOf(id, 'offcuts', offcuts).values(), ...recordsOf(id, 'versions', versions).values()])
      await runner.query('insert into kept values ($1, $2, $3)', [id, record.id, JSON.stringify(record)])
    await runner.query('update document set body = $2 where id = $1', [id, JSON.stringify(head)])
  }

  async down(): Promise<void> {
    throw new Error('Pieces are not put back into one row each: restore a copy of the database.')
  }
}
