import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Recordings of one conversation that are put in step. */
export class LineUps1764400000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table line_up (
        id uuid primary key,
        tapes jsonb not null,
        state text not null,
        progress real not null default 0,
        error text not null default '',
        fits jsonb not null default '[]',
        joining jsonb,
        tape uuid,
        at timestamptz not null default now()
      );
      create index line_up_by_tape on line_up (tape);
    `)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table line_up')
  }
}
