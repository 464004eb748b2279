import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Treatments that are kept by a name. */
export class KeptTreatments1766600000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      'create table kept_treatment (name text primary key, speaker text not null, voice jsonb not null, steps jsonb not null)',
    )
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table kept_treatment')
  }
}
