import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Tapes that grow while they arrive, what was heard on them, and what they are filed by. */
export class Arrivals1764200000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table tape
        add column size bigint not null default 0,
        add column complete boolean not null default true,
        add column tended timestamptz,
        add column twin uuid,
        add column figures jsonb,
        add column findings jsonb not null default '[]',
        add column origin jsonb not null default '{"description":"","originator":"","date":"","time":"","notes":"","tracks":[]}';
      update tape set size = bytes;
      create index tape_by_sha on tape (sha256);
      update document set body = jsonb_set(jsonb_set(body, '{records,tape,day}', '""'), '{records,tape,tags}', '[]') where kind = 'tape';
    `)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      update document set body = body #- '{records,tape,day}' #- '{records,tape,tags}' where kind = 'tape';
      alter table tape drop column size, drop column complete, drop column tended, drop column twin, drop column figures,
        drop column findings, drop column origin;
    `)
  }
}
