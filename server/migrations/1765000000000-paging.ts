import type { MigrationInterface, QueryRunner } from 'typeorm'

/**
 * What lists ask of pieces and tapes, kept beside them: how long a piece is and which tapes stand in it, and
 * what a tape is filed by. All follow from the body, so the database keeps them, whoever writes.
 */
export class Paging1765000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create function span_frames(body jsonb) returns bigint immutable language sql as $$
        select coalesce(sum((span ->> 'to')::float8 - (span ->> 'from')::float8), 0)::bigint
        from jsonb_path_query(body, 'lax $.spans[*] ? (@.to.type() == "number" && @.from.type() == "number")') as span
      $$;
      create function texts(list jsonb) returns text[] immutable language sql as $$
        select coalesce(array_agg(one #>> '{}' order by place), '{}')
          from jsonb_array_elements(list) with ordinality as all_of_it (one, place)
      $$;
      create function speakers(body jsonb) returns text[] immutable language sql as $$
        select coalesce(array_agg(distinct one #>> '{}'), '{}')
        from jsonb_array_elements(jsonb_path_query_array(body, 'lax $.records.tape.sides[*].name') ||
          jsonb_path_query_array(body, 'lax $.records.tape.speaker')) as one where one #>> '{}' <> ''
      $$;
      create function whole(value jsonb) returns bigint immutable language sql as $$
        select case when jsonb_typeof(value) = 'number' then (value #>> '{}')::float8::bigint end
      $$;
      alter table document
        add column frames bigint generated always as (case when kind = 'actuality' then span_frames(body) end) stored,
        add column head_frames bigint generated always as (case when kind = 'actuality' then whole(body -> 'head') end) stored,
        add column tail_frames bigint generated always as (case when kind = 'actuality' then whole(body -> 'tail') end) stored,
        add column filing jsonb generated always as (case when kind = 'tape'
          and jsonb_typeof(body #> '{records,tape,sides}') = 'array' then body #> '{records,tape}' end) stored,
        add column speakers text[] generated always as (case when kind = 'tape' then speakers(body) end) stored,
        add column tags text[] generated always as (case when kind = 'tape'
          then texts(jsonb_path_query_array(body, 'lax $.records.tape.tags[*]')) end) stored,
        add column filed_in text[] generated always as (case when kind = 'tape'
          then texts(jsonb_path_query_array(body, 'lax $.records.tape.stories[*]')) end) stored,
        add column marks int generated always as (case when kind = 'tape'
          then jsonb_array_length(jsonb_path_query_array(body, 'lax $.records.* ? (@.kind == "mark")')) end) stored;
      create index document_by_change on document (changed desc) where not aside and kind <> 'transcript';

      create table piece_use (piece uuid not null references document on delete cascade, tape text not null, story text,
        primary key (piece, tape));
      create index piece_use_by_tape on piece_use (tape);
      create function note_uses() returns trigger language plpgsql as $$
        begin
          if tg_op = 'UPDATE' then
            if new.body -> 'spans' is not distinct from old.body -> 'spans' and new.body -> 'story' is not distinct
              from old.body -> 'story' and new.aside = old.aside then return null; end if;
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
      alter table document drop column frames, drop column head_frames, drop column tail_frames, drop column filing,
        drop column speakers, drop column tags, drop column filed_in, drop column marks;
      drop function span_frames;
      drop function texts;
      drop function speakers;
      drop function whole`)
  }
}
