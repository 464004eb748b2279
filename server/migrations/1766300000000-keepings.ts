import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Stories on their way into a story file, or back from one. */
export class Keepings1766300000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table keeping (
        id uuid primary key,
        kind text not null check (kind in ('out', 'back')),
        state text not null default 'waiting' check (state in ('waiting', 'working', 'done', 'failed', 'cancelled')),
        progress real not null default 0,
        error text not null default '',
        name text not null,
        story uuid,
        bytes bigint not null default 0,
        beat timestamptz,
        at timestamptz not null default now()
      )`)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table keeping')
  }
}
