import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Where files are sent to, the way of each, and in which form a programme wants them. */
export class Deliveries1766100000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table destination (
        id uuid primary key,
        name text not null,
        kind text not null,
        address text not null,
        "user" text not null default '',
        secret text not null default '',
        field text not null default '',
        heeds_key boolean not null default false,
        same_name text not null default 'ask',
        host_key text not null default '',
        gone boolean not null default false,
        at timestamptz not null default now()
      )`)
    await runner.query(`
      create table delivery (
        id uuid primary key,
        send uuid not null references send on delete cascade,
        destination uuid not null references destination,
        "to" text not null,
        file_name text not null,
        state text not null,
        progress real not null default 0,
        tries int not null default 0,
        next_try timestamptz,
        until timestamptz,
        error text not null default '',
        proof text,
        replaces boolean not null default false,
        beyond boolean not null default false,
        beat timestamptz,
        arrived timestamptz,
        at timestamptz not null default now()
      )`)
    await runner.query('create index delivery_send on delivery (send)')
    await runner.query(
      `create index delivery_open on delivery (state) where state in ('waiting', 'sending', 'perhaps', 'exists', 'failed')`,
    )
    await runner.query(`
      create table programme (
        name text primary key,
        format jsonb not null,
        changed timestamptz not null default now()
      )`)
    await runner.query(`alter table send add column made_of jsonb`)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('alter table send drop column made_of')
    for (const table of ['programme', 'delivery', 'destination']) await runner.query(`drop table ${table}`)
  }
}
