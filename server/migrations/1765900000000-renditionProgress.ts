import type { MigrationInterface, QueryRunner } from 'typeorm'

/** How much of a rendition is made, and what it did, for whoever waits for it and listens to it. */
export class RenditionProgress1765900000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`alter table rendition add column progress real not null default 0, add column did jsonb`)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('alter table rendition drop column progress, drop column did')
  }
}
