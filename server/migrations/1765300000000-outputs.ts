import { createHash } from 'node:crypto'
import { generateKeyBetween } from 'fractional-indexing'
import type { MigrationInterface, QueryRunner } from 'typeorm'

type Step = { type: string; id?: string; key?: string; record?: Fields; [key: string]: unknown }
type Fields = Record<string, unknown>
export interface OldStory {
  records: Record<string, Fields>
}

const OF_OUTPUT = ['airs', 'slot', 'client']

/** Ids of what a story has had from its beginning: the same wherever it is named. */
function idOf(story: string, what: 'output' | 'soc'): string {
  const hex = createHash('sha256').update(`${story} ${what}`).digest('hex')
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`
}

/** A story whose air time, slot and programme are those of an output, and whose standard out cue is a block at its end. */
export function withOutput(story: string, { records = {} }: Partial<OldStory>): { kind: 'story'; records: Record<string, Fields> } {
  const { airs = '', slot = 0, client = '', soc = '', ...head } = records.story ?? {}
  const blocks = Object.values(records).filter((one) => typeof one.order === 'string') as {
    id: string
    order: string
    [key: string]: unknown
  }[]
  blocks.sort((a, b) => (a.order < b.order ? -1 : 1))
  const [output, cue] = [idOf(story, 'output'), idOf(story, 'soc')]
  const last = blocks.findLast(({ kind, aside }) => kind === 'copy' && !aside)
  return {
    kind: 'story',
    records: {
      ...records,
      ...(records.story ? { story: head } : {}),
      [output]: { id: output, kind: 'output', name: '', order: 'a0', client, airs, slot, loudness: null, unrecorded: 'out' },
      [cue]: {
        id: cue,
        kind: 'soc',
        order: generateKeyBetween(blocks.at(-1)?.order ?? null, null),
        // where none was written there is none; what undoing its writing needs is there all the same
        aside: soc === '',
        text: soc,
        reader: last?.reader ?? '',
        pace: 170,
        piece: null,
      },
    },
  }
}

/** A step on a property of the story as one on the output or the block that has it now. */
export function redirected(story: string, step: Step): Step {
  if (step.id !== 'story' || !step.key) return step
  if (OF_OUTPUT.includes(step.key)) return { ...step, id: idOf(story, 'output') }
  return step.key === 'soc' ? { ...step, id: idOf(story, 'soc'), key: 'text' } : step
}

/**
 * A story gets outputs, and its standard out cue becomes a block, which is read and recorded as copy is.
 */
export class Outputs1765300000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    const stories = (await runner.query(`select id from document where kind = 'story'`)) as { id: string }[]
    for (const { id } of stories) {
      const [{ body }] = (await runner.query('select body from document where id = $1', [id])) as { body: OldStory }[]
      await runner.query('update document set body = $2 where id = $1', [id, JSON.stringify(withOutput(id, body))])
    }
    const entries = (await runner.query(
      `select e.id, e.document, e.steps, e.inverse from entry e join document d on d.id = e.document
       where d.kind = 'story' and (e.steps @? '$[*] ? (@.id == "story")' or e.inverse @? '$[*] ? (@.id == "story")')`,
    )) as { id: string; document: string; steps: Step[]; inverse: Step[] }[]
    for (const { id, document, steps, inverse } of entries) {
      const changed = [steps, inverse].map((some) => JSON.stringify(some.map((step) => redirected(document, step))))
      await runner.query('update entry set steps = $2, inverse = $3 where id = $1', [id, ...changed])
    }
  }

  async down(): Promise<void> {
    throw new Error('Outputs are not put back into their stories: restore a copy of the database.')
  }
}
