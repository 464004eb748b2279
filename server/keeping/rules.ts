import { WARNED_DAYS, type Going, type KeepRules } from '../../contract/keepRules'
import { deleteTape } from '../library'
import { log } from '../log'
import { tell } from '../notices'
import { Refusal } from '../problem'
import type { Services } from '../services'

/**
 * What is kept how long. Nothing goes at once: what a rule is about is warned of first, goes where deleted tapes go, and can be
 * restored from there for thirty days. What anything uses never goes.
 */

export async function keepRules({ database }: Pick<Services, 'database'>): Promise<KeepRules> {
  const rows = await database.query<{ what: string; days: number }[]>('select what, days from keep_rule')
  const days = new Map(rows.map((row) => [row.what, row.days]))
  return { unusedTapes: days.get('unusedTapes') ?? null, storyFiles: days.get('storyFiles') ?? null }
}

export async function setKeepRules(services: Services, rules: KeepRules): Promise<void> {
  const { database } = services
  for (const [what, days] of Object.entries(rules) as [string, number | null][]) {
    if (days === null) await database.query('delete from keep_rule where what = $1', [what])
    else await database.query('insert into keep_rule (what, days) values ($1, $2) on conflict (what) do update set days = $2', [what, days])
  }
  await applyKeepRules(services)
}

/** Recordings older than so many days that nothing uses, that are filed in no story which is on the Desk, and that nobody spared. */
const UNUSED = `
  select t.id from tape t join document d on d.id = t.id
  where t.state = 'ready' and d.deleted is null and not t.spared
    and greatest(t.added, d.changed) < now() - make_interval(days => $1)
    and not exists (select 1 from piece_use where piece_use.tape = t.id::text)
    and not exists (select 1 from document story where story.kind = 'story' and not story.aside
      and (story.id::text = any(d.filed_in) or story.body @? ('$.**.tape ? (@ == "' || t.id || '")')::jsonpath))`

/** Warns of what will go, lets go of what was warned of long enough ago, and takes the warning from what is used by now. */
export async function applyKeepRules(services: Services): Promise<void> {
  const { database, store } = services
  const { unusedTapes, storyFiles } = await keepRules(services)
  if (unusedTapes === null) await database.query('update tape set warned = null where warned is not null')
  else {
    await database.query(`update tape set warned = null where warned is not null and id not in (${UNUSED})`, [unusedTapes])
    await database.query(`update tape set warned = now() where warned is null and id in (${UNUSED})`, [unusedTapes])
    const due = await database.query<{ id: string }[]>(
      `select id from tape where warned < now() - interval '${WARNED_DAYS} days' and id in (${UNUSED})`,
      [unusedTapes],
    )
    for (const { id } of due)
      await deleteTape(services, id).catch((error: unknown) => {
        // something uses it after all: it stays
        if (!(error instanceof Refusal)) log.error({ error, id }, 'letting a tape go')
      })
  }
  if (storyFiles !== null) {
    const old = await database.query<{ id: string }[]>(
      `select id from keeping where kind = 'out' and state <> 'working' and at < now() - make_interval(days => $1)`,
      [storyFiles],
    )
    for (const { id } of old) {
      await store.remove(store.storyFile(id))
      await database.query('delete from keeping where id = $1', [id])
    }
  }
  await tell(database, { about: 'keepings' })
}

/** What will go, the first to go first. */
export async function goingTapes({ database }: Services): Promise<Going[]> {
  const rows = await database.query<{ id: string; name: string; frames: number; goes: Date }[]>(
    `select t.id, d.filing ->> 'name' as name, t.frames::float8 as frames, t.warned + interval '${WARNED_DAYS} days' as goes
      from tape t join document d on d.id = t.id where t.warned is not null and d.deleted is null order by goes, t.id limit 1000`,
  )
  return rows.map(({ goes, ...row }) => ({ ...row, goes: goes.toISOString() }))
}

export async function spareTapes({ database }: Services, tapes: readonly string[]): Promise<void> {
  await database.query('update tape set spared = true, warned = null where id = any($1)', [[...tapes]])
  await tell(database, { about: 'keepings' })
}
