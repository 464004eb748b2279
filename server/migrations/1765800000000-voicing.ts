import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Lines of a story's copy that are looked for on a tape that somebody read them on. */
export class Voicing1765800000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table voicing (
        tape uuid primary key references document on delete cascade,
        act uuid not null,
        author uuid not null,
        story uuid not null references document on delete cascade,
        blocks jsonb not null,
        state text not null check (state in ('waiting', 'working', 'done', 'failed')),
        progress real not null default 0,
        report jsonb,
        error text not null default '',
        beat timestamptz,
        at timestamptz not null default now()
      )`)
    await runner.query('create index on voicing (story)')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table voicing')
  }
}
