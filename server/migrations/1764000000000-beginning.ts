import type { MigrationInterface, QueryRunner } from 'typeorm'

export class Beginning1764000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table document (
        id uuid primary key,
        kind text not null check (kind in ('tape', 'actuality', 'story')),
        revision int not null,
        aside boolean not null,
        body jsonb not null,
        created timestamptz not null default now(),
        changed timestamptz not null default now()
      );
      create index document_by_kind on document (kind, changed desc);
      create index document_spans on document using gin ((body -> 'spans') jsonb_path_ops) where kind = 'actuality';

      create table entry (
        id uuid primary key,
        document uuid not null references document on delete cascade,
        revision int not null,
        author uuid not null,
        label text not null,
        steps jsonb not null,
        inverse jsonb not null,
        undoes uuid,
        quiet boolean not null,
        at timestamptz not null default now(),
        unique (document, revision)
      );

      create table tape (
        id uuid primary key references document on delete cascade,
        state text not null check (state in ('arriving', 'ready', 'failed')),
        progress real not null,
        error text not null,
        channels int not null,
        frames bigint not null,
        file_name text not null,
        bytes bigint not null,
        sha256 text not null,
        format text not null,
        tone jsonb not null,
        words jsonb,
        added timestamptz not null default now()
      );

      create table send (
        id uuid primary key,
        request jsonb not null,
        state text not null check (state in ('waiting', 'working', 'done', 'failed', 'cancelled')),
        progress real not null,
        file_name text not null,
        frames bigint not null,
        bytes bigint not null,
        sha256 text not null,
        error text not null,
        at timestamptz not null default now()
      );
      create index send_by_target on send ((request -> 'what' ->> 'id'), at desc);
    `)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table send; drop table tape; drop table entry; drop table document;')
  }
}
