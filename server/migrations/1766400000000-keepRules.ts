import type { MigrationInterface, QueryRunner } from 'typeorm'

/** How long what is kept, by a newsroom's own rule; which tapes will go by it, and which somebody spared. */
export class KeepRules1766400000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('create table keep_rule (what text primary key, days int not null check (days > 0))')
    await runner.query('alter table tape add column warned timestamptz, add column spared boolean not null default false')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('alter table tape drop column warned, drop column spared')
    await runner.query('drop table keep_rule')
  }
}
