import type { MigrationInterface, QueryRunner } from 'typeorm'

/** When the sender of a tape was last heard of, and the line of copy that a take was recorded for. */
export class Takes1765100000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('alter table tape add sender timestamptz, add line jsonb')
    await runner.query("create index tape_arriving on tape (id) where state = 'arriving'")
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop index tape_arriving')
    await runner.query('alter table tape drop sender, drop line')
  }
}
