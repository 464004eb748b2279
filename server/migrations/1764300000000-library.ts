import type { MigrationInterface, QueryRunner } from 'typeorm'

/** What a library of thousands of tapes is filed and found by. */
export class Library1764300000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table document add column deleted timestamptz;
      alter table tape add column heard boolean not null default false, add column disk bigint not null default 0,
        add column spoken tsvector;
      create function spoken_words() returns trigger language plpgsql as $$
        begin
          new.spoken := to_tsvector('simple', coalesce((select string_agg(word ->> 'text', ' ')
            from jsonb_array_elements(new.words) word), ''));
          return new;
        end $$;
      create trigger tape_spoken before insert or update of words on tape for each row execute function spoken_words();
      update tape set words = words where words is not null;
      create index tape_spoken on tape using gin (spoken);
      create table search (id uuid primary key, name text not null, filter jsonb not null, made timestamptz not null default now());
      update document set body = jsonb_set(body, '{records,tape,stories}', '[]') where kind = 'tape';
      update document piece set body = jsonb_set(body, '{sides}', coalesce((
        select jsonb_object_agg(tape.id, tape.body #> '{records,tape,sides}') from document tape
        where tape.kind = 'tape' and piece.body -> 'spans' @> jsonb_build_array(jsonb_build_object('tape', tape.id::text))
      ), '{}')) where kind = 'actuality';
    `)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      update document set body = body #- '{records,tape,stories}' where kind = 'tape';
      update document set body = body - 'sides' where kind = 'actuality';
      drop table search;
      drop trigger tape_spoken on tape;
      drop function spoken_words;
      alter table tape drop column heard, drop column disk, drop column spoken;
      alter table document drop column deleted;
    `)
  }
}
