import type { MigrationInterface, QueryRunner } from 'typeorm'

interface OldSpan {
  tape: string
  from: number
  to: number
  sound: string
  patch?: unknown
}

interface OldPiece {
  spans: OldSpan[]
  versions?: { spans: OldSpan[] }[]
}

/**
 * Room that was added stands for nothing, room that holds time stands for its frames of the tape; both were
 * written as `tone`. Held time ends where the next span begins; what ends anywhere else was added.
 */
export function withRoom<S extends OldSpan>(spans: readonly S[]): S[] {
  return spans.map((span, i) => {
    const [left, right] = [spans[i - 1], spans[i + 1]]
    if (span.sound !== 'tone' || span.patch || !left || !right) return span
    const added = left.tape === span.tape && left.to === span.from && right.tape === span.tape && right.from !== span.to
    return added ? { ...span, sound: 'room' } : span
  })
}

export class Room1764800000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`alter table entry add column together text`)
    // who works on a send says so again and again, so that another can take over
    await runner.query(`alter table send add column beat timestamptz`)
    const rows = (await runner.query(`select id, body from document where kind = 'actuality' and body::text like '%"tone"%'`)) as {
      id: string
      body: OldPiece
    }[]
    for (const { id, body } of rows) {
      const versions = body.versions?.map((version) => ({ ...version, spans: withRoom(version.spans) }))
      await runner.query('update document set body = $2 where id = $1', [
        id,
        JSON.stringify({ ...body, spans: withRoom(body.spans), ...(versions ? { versions } : {}) }),
      ])
    }
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`alter table entry drop column together`)
    await runner.query(`alter table send drop column beat`)
    await runner.query(`update document set body = replace(body::text, '"room"', '"tone"')::jsonb where kind = 'actuality'`)
  }
}
