import type { MigrationInterface, QueryRunner } from 'typeorm'

const MARKS = ['steps', 'inverse']

/** What marked a join as heard was a step on the whole join, and stood in the way of what came after; now it is one of its own. */
export class Heard1764700000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const marks of MARKS)
      await runner.query(`
        update entry set ${marks} = (
          select jsonb_agg(case when step ->> 'type' = 'join'
            then jsonb_build_object('type', 'heard', 'at', step -> 'at', 'heard', step -> 'join' -> 'heard') else step end order by place)
          from jsonb_array_elements(${marks}) with ordinality as all_of_it (step, place)
        ) where quiet and ${marks} @> '[{"type": "join"}]'
      `)
  }

  /** The joins are as they were: only that they were heard is not taken back with them. */
  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`update entry set steps = '[]', inverse = '[]' where quiet and steps @> '[{"type": "heard"}]'`)
  }
}
