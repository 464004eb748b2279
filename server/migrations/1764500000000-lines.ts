import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Calls on the line, and files taken off recorders' cards. */
export class Lines1764500000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table phone_call (id uuid primary key, caller text not null, state text not null, tape uuid, at timestamptz not
        null default now());
      create table card_file (
        id uuid primary key references document (id) on delete cascade,
        card text not null,
        path text not null,
        size bigint not null,
        modified bigint not null,
        copied boolean not null,
        copying timestamptz
      );
      create index card_file_by_place on card_file (card, path);
    `)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table phone_call; drop table card_file')
  }
}
