import type { MigrationInterface, QueryRunner } from 'typeorm'

/** A receipt says how loud its file is; files that were sent before were not measured. */
export class SendFigures1764900000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('alter table send add loudness real, add true_peak real')
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query('alter table send drop loudness, drop true_peak')
  }
}
