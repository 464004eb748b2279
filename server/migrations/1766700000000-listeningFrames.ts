import type { MigrationInterface, QueryRunner } from 'typeorm'

/** So much of a tape was listened to, in frames: one that is still arriving is listened to as far as it has come. */
export class ListeningFrames1766700000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('alter table listening add frames bigint')
    await runner.query('update listening set frames = coalesce(tape.frames, 0) from tape where tape.id = listening.tape')
    await runner.query('alter table listening alter frames set not null')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('alter table listening drop frames')
  }
}
