import type { MigrationInterface, QueryRunner } from 'typeorm'

/** How far listening to each tape for Tidy has come, and of which sides; what was heard lies beside the tape's sound. */
export class Listenings1765500000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table listening (
        tape uuid primary key references tape (id) on delete cascade,
        run uuid not null,
        state text not null check (state in ('waiting', 'working', 'done', 'failed')),
        sides jsonb not null,
        progress real not null default 0,
        error text not null default '',
        beat timestamptz
      )`)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table listening')
  }
}
