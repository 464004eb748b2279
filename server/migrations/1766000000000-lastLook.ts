import type { MigrationInterface, QueryRunner } from 'typeorm'

/** What was asked of a send before it went out. */
export class LastLook1766000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`alter table send add column look jsonb not null default '[]'`)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('alter table send drop column look')
  }
}
