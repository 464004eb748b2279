import type { MigrationInterface, QueryRunner } from 'typeorm'

/** How far the making of each rendition of a tape's side has come. What it is made of, and how, is in the tape's document. */
export class Renditions1765400000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table rendition (
        id uuid primary key,
        tape uuid not null,
        state text not null default 'waiting' check (state in ('waiting', 'working', 'ready', 'failed')),
        error text not null default '',
        beat timestamptz
      );
      create index rendition_tape on rendition (tape)`)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table rendition')
  }
}
