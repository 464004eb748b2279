import type { MigrationInterface, QueryRunner } from 'typeorm'

/**
 * What lists ask of pieces, kept beside them: how long each is, and which tapes stand in it. Both follow
 * from the body, so the database keeps them, whoever writes.
 */
export class Paging1765000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create function span_frames(body jsonb) returns bigint immutable language sql as $$
        select coalesce(sum((span ->> 'to')::float8 - (span ->> 'from')::float8), 0)::bigint
        from jsonb_path_query(body, 'lax $.spans[*] ? (@.to.type() == "number" && @.from.type() == "number")') as span
      $$;
      alter table document add column frames bigint generated always as (case when kind = 'actuality' then span_frames(body) end) stored;
      create index document_by_change on document (changed desc) where not aside and kind <> 'transcript';

      create table piece_use (piece uuid not null references document on delete cascade, tape text not null, story text, primary key (piece, tape));
      create index piece_use_by_tape on piece_use (tape);
      create function note_uses() returns trigger language plpgsql as $$
        begin
          if tg_op = 'UPDATE' then
            if new.body -> 'spans' is not distinct from old.body -> 'spans' and new.body -> 'story' is not distinct from old.body -> 'story' and new.aside = old.aside then return null; end if;
            delete from piece_use where piece = new.id;
          end if;
          if not new.aside then
            insert into piece_use
              select distinct new.id, used #>> '{}', new.body ->> 'story'
              from jsonb_path_query(new.body -> 'spans', 'strict $.**.tape', silent => true) as used where jsonb_typeof(used) = 'string';
          end if;
          return null;
        end
      $$;
      create trigger note_uses after insert or update on document for each row when (new.kind = 'actuality') execute function note_uses();
      insert into piece_use
        select distinct piece.id, used #>> '{}', piece.body ->> 'story'
        from document piece, jsonb_path_query(piece.body -> 'spans', 'strict $.**.tape', silent => true) as used
        where piece.kind = 'actuality' and not piece.aside and jsonb_typeof(used) = 'string'`)
  }
  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      drop trigger note_uses on document;
      drop function note_uses;
      drop table piece_use;
      drop index document_by_change;
      alter table document drop column frames;
      drop function span_frames`)
  }
}
