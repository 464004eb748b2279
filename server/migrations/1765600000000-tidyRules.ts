import type { MigrationInterface, QueryRunner } from 'typeorm'

/** What a newsroom settled once about tidying: what is not offered again, and filler words of its own. */
export class TidyRules1765600000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table dismissal (
        id uuid primary key,
        rule jsonb not null,
        tape uuid references tape (id) on delete cascade,
        at timestamptz not null default now()
      )`)
    await runner.query('create unique index on dismissal (rule)')
    await runner.query('create table filler_phrases (language text primary key, phrases jsonb not null)')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table dismissal')
    await runner.query('drop table filler_phrases')
  }
}
