import type { MigrationInterface, QueryRunner } from 'typeorm'

/** A script that goes with a file: its own name, length and hash, and a way of its own to each destination. */
export class Scripts1766500000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('alter table send add column script jsonb')
    await runner.query('alter table delivery add column is_script boolean not null default false')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('alter table delivery drop column is_script')
    await runner.query('alter table send drop column script')
  }
}
