import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Boards of live clips, and what was played on them. */
export class Plays1766200000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table document drop constraint document_kind_check,
        add check (kind in ('tape', 'actuality', 'story', 'transcript', 'board'))`)
    await runner.query(`
      create table play (
        id uuid primary key,
        board uuid not null,
        piece uuid not null,
        slug text not null,
        at timestamptz not null,
        seconds real not null,
        stopped boolean not null,
        by text not null
      )`)
    await runner.query('create index play_board on play (board, at)')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table play')
    await runner.query(`delete from entry where document in (select id from document where kind = 'board')`)
    await runner.query(`delete from document where kind = 'board'`)
    await runner.query(`
      alter table document drop constraint document_kind_check,
        add check (kind in ('tape', 'actuality', 'story', 'transcript'))`)
  }
}
