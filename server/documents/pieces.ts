import type { EntityManager } from 'typeorm'
import type { AnyStep } from '../../contract/documents'
import { actualityType, clipLength, type Actuality, type ActualityStep, type Kept } from '../../core/edits/actuality'
import type { EditList, Span } from '../../core/edits/editList'
import { log } from '../log'
import { DocumentEntity, EditListEntity, KeptEntity, type PieceHead } from '../entities'

/**
 * Pieces as the database keeps them. What is kept beside a piece lies in rows of its own. So does its edit list, which is
 * written anew only now and then: what came since is in the log of acts. An act on a long piece writes little that way.
 */

/** So many acts may pass until an edit list is written anew. */
const LISTED_EVERY = 40

/** A piece, and the revision at which its edit list was last written. */
export interface StoredPiece {
  id: string
  revision: number
  aside: boolean
  created: Date
  changed: Date
  piece: Actuality
  listed: number
}

type Row = Omit<StoredPiece, 'piece'> & {
  body: PieceHead
  spans: Span[]
  steps: ActualityStep[][] | null
  kept: Record<string, Kept> | null
}

const KEPT = `(select jsonb_object_agg(kept.id, kept.record) from kept where kept.piece = d.id)`
/** Of the acts since the list was written: their steps, in order. */
const STEPS = `(select jsonb_agg(entry.steps order by entry.revision) from entry where entry.document = d.id
  and entry.revision > list.revision)`

/**
 * Pieces that a condition on the document `d` chooses, in the order in which they were made. All of a piece is of one
 * moment. What is kept beside it comes along if it is asked for.
 */
export async function readPieces(
  manager: Pick<EntityManager, 'query'>,
  where: string,
  values: unknown[],
  { kept = false } = {},
): Promise<StoredPiece[]> {
  const rows = (await manager.query(
    `select d.id, d.revision, d.aside, d.created, d.changed, d.body, list.spans, list.revision as listed, ${STEPS} as steps,
       ${kept ? KEPT : 'null'} as kept
     from document d join edit_list list on list.piece = d.id where d.kind = 'actuality' and ${where} order by d.created`,
    values,
  )) as Row[]
  return rows.flatMap(({ body, spans, steps, kept: beside, ...row }) => {
    try {
      return [{ ...row, piece: { ...body, spans: spansAfter(spans, steps ?? []), ...(beside ? { kept: beside } : {}) } }]
    } catch (error) {
      // one damaged row never hides the others
      log.error({ error, id: row.id }, 'a piece that cannot be read')
      return []
    }
  })
}

/** One piece with all that is kept beside it; null if it is not there. */
export async function readPiece(manager: Pick<EntityManager, 'query'>, id: string): Promise<StoredPiece | null> {
  return (await readPieces(manager, 'd.id = $1', [id], { kept: true }))[0] ?? null
}

export async function piecesById(
  manager: EntityManager,
  ids: readonly string[],
  also?: { kept: boolean },
): Promise<Map<string, Actuality>> {
  if (!ids.length) return new Map()
  return new Map((await readPieces(manager, 'd.id = any($1)', [ids], also)).map(({ id, piece }) => [id, piece]))
}

const onSpans = (step: ActualityStep): boolean => step.type !== 'set' && step.type !== 'keep'

/** An edit list after acts that the rest of its piece has in it already. */
function spansAfter(spans: EditList, acts: readonly ActualityStep[][]): EditList {
  let piece = { spans } as Actuality
  for (const steps of acts) for (const step of steps) if (onSpans(step)) piece = actualityType.apply(piece, step)
  return piece.spans
}

function headOf({ spans: _, kept: __, ...head }: Actuality): PieceHead {
  return head
}

/** Lists never change, and the list after one act is the list before the next. */
const knownTapes = new WeakMap<EditList, ReadonlySet<string>>()

/** Every tape that is named anywhere in a list: in its spans, under its patches, in what its joins took. */
function tapesWithin(list: EditList): ReadonlySet<string> {
  let found = knownTapes.get(list)
  if (!found) knownTapes.set(list, (found = findTapes(list, new Set())))
  return found
}

function findTapes(list: EditList, found: Set<string>): Set<string> {
  for (const { tape, patch, join } of list) {
    found.add(tape)
    if (patch) found.add(patch.tape)
    if (patch?.under) findTapes(patch.under, found)
    if (join?.took) findTapes(join.took.spans, found)
  }
  return found
}

const useTapes = (manager: EntityManager, piece: string, tapes: Iterable<string>): Promise<unknown> =>
  manager.query('insert into piece_use (piece, tape) select $1, unnest($2::text[]) on conflict do nothing', [piece, [...tapes]])

/** All tapes that anything of a piece is of: what it plays, what stands under it, and what is kept beside it. */
export function tapesOfPiece({ spans, kept = {} }: Actuality): Set<string> {
  const found = new Set(tapesWithin(spans))
  for (const one of Object.values(kept)) if ('spans' in one) findTapes(one.spans, found)
  return found
}

/** Keeps a new piece; false if one of this id is there. */
export async function insertPiece(manager: EntityManager, id: string, piece: Actuality): Promise<boolean> {
  const { raw } = await manager
    .createQueryBuilder()
    .insert()
    .into(DocumentEntity)
    .values({ id, kind: 'actuality', revision: 0, aside: false, body: headOf(piece) as object, frames: clipLength(piece) })
    .orIgnore()
    .returning('id')
    .execute()
  if (!(raw as unknown[]).length) return false
  await manager.insert(EditListEntity, { piece: id, revision: 0, spans: piece.spans as object[] })
  await writeKept(manager, id, Object.values(piece.kept ?? {}))
  await useTapes(manager, id, tapesWithin(piece.spans))
  return true
}

const writeKept = async (manager: EntityManager, piece: string, records: readonly Kept[]): Promise<void> => {
  if (records.length)
    await manager.upsert(
      KeptEntity,
      records.map((record) => ({ piece, id: record.id, record: record as object })),
      ['piece', 'id'],
    )
}

const recordIds = (steps: readonly AnyStep[]): string[] => [
  ...new Set(
    (steps as ActualityStep[]).flatMap((step) =>
      step.type !== 'keep' ? [] : [step.step.type === 'put' ? step.step.record.id : step.step.id],
    ),
  ),
]

/** Those of a piece's kept records that steps name: all that these steps need. */
export async function keptFor(manager: EntityManager, piece: string, steps: readonly AnyStep[]): Promise<Pick<Actuality, 'kept'>> {
  const ids = recordIds(steps)
  if (!ids.length) return {}
  const rows = await manager.query<{ id: string; record: Kept }[]>('select id, record from kept where piece = $1 and id = any($2)', [
    piece,
    ids,
  ])
  return rows.length ? { kept: Object.fromEntries(rows.map(({ id, record }) => [id, record])) } : {}
}

/** What steps change in a piece's own row: its length, and what it is called; null for what stays. */
export const pieceColumns = (after: Actuality, steps: readonly ActualityStep[]): { body: PieceHead | null; frames: number } => ({
  body: steps.some((step) => step.type === 'set') ? headOf(after) : null,
  frames: clipLength(after),
})

/** Writes what steps have changed in a piece that is locked, beside its own row; resolves to that at which its list was last written. */
export async function writePiece(manager: EntityManager, { id, before, after, steps, revision, listed }: PieceChange): Promise<number> {
  const ids = recordIds(steps)
  const gone = ids.filter((one) => !after.kept || !Object.hasOwn(after.kept, one))
  await writeKept(
    manager,
    id,
    ids.flatMap((one) => (gone.includes(one) ? [] : [after.kept![one]])),
  )
  if (gone.length)
    await manager.delete(
      KeptEntity,
      gone.map((one) => ({ piece: id, id: one })),
    )
  await writeUses(manager, id, before.spans, after.spans)
  if (revision - listed < LISTED_EVERY) return listed
  await manager.update(EditListEntity, { piece: id }, { revision, spans: after.spans as object[] })
  return revision
}

export interface PieceChange {
  id: string
  before: Actuality
  after: Actuality
  steps: readonly ActualityStep[]
  revision: number
  /** The revision at which the list was last written. */
  listed: number
}

const sameSet = (a: ReadonlySet<string>, b: ReadonlySet<string>): boolean => a.size === b.size && [...a].every((one) => b.has(one))

/** Whether an edit list need not be written anew, `acts` after it was written last, and uses the same tapes. */
export const staysAsListed = (before: Actuality, after: Actuality, acts: number): boolean =>
  acts < LISTED_EVERY && (before.spans === after.spans || sameSet(tapesWithin(before.spans), tapesWithin(after.spans)))

async function writeUses(manager: EntityManager, id: string, before: EditList, after: EditList): Promise<void> {
  if (before === after) return
  const [was, is] = [tapesWithin(before), tapesWithin(after)]
  const gone = [...was].filter((tape) => !is.has(tape))
  const fresh = [...is].filter((tape) => !was.has(tape))
  if (gone.length) await manager.query('delete from piece_use where piece = $1 and tape = any($2)', [id, gone])
  if (fresh.length) await useTapes(manager, id, fresh)
}
