import { randomUUID } from 'node:crypto'
import type { MigrationInterface, QueryRunner } from 'typeorm'
import { transcriptOf } from '../../core/transcript/transcript'
import { filePhrases } from '../find/phrases'
import type { Word } from '../../core/tape/words'

/** A tape's words become a document of their own, which changes by steps, and what is said is found by an index of phrases. */
export class Transcripts1764600000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table document drop constraint document_kind_check, add check (kind in ('tape', 'actuality', 'story', 'transcript')),
        add column tape uuid references document on delete cascade,
        add column words int generated always as (case when kind = 'transcript' then jsonb_array_length(body -> 'words') end) stored;
      create unique index document_by_tape on document (tape) where tape is not null;
      create extension if not exists pg_trgm;
      create extension if not exists fuzzystrmatch;
      create table phrase (
        id bigint generated always as identity primary key,
        tape uuid not null references document on delete cascade,
        at bigint not null,
        until bigint not null,
        speaker text not null,
        words jsonb not null,
        own int not null,
        spoken tsvector not null
      );
      create index phrase_by_tape on phrase (tape, at);
      create index phrase_spoken on phrase using gin (spoken);
      create table spelling (word text primary key, sound text generated always as (dmetaphone(word)) stored);
      create index spelling_near on spelling using gin (word gin_trgm_ops);
      create index spelling_sound on spelling (sound);
      create table bringing (
        tape uuid primary key references document on delete cascade,
        act uuid not null,
        author uuid not null,
        name text not null,
        words jsonb not null,
        state text not null check (state in ('waiting', 'working', 'done', 'failed')),
        progress real not null default 0,
        report jsonb,
        error text not null default '',
        beat timestamptz,
        at timestamptz not null default now()
      );
      create table recognition (
        tape uuid primary key references document on delete cascade,
        run uuid not null,
        state text not null check (state in ('waiting', 'working', 'done', 'failed')),
        recogniser text not null,
        plan jsonb not null,
        done int[] not null default '{}',
        seconds real not null default 0,
        error text not null default '',
        beat timestamptz,
        at timestamptz not null default now()
      );
    `)
    const tapes = (await runner.query('select id, words from tape')) as { id: string; words: Word[] | null }[]
    for (const { id, words } of tapes) {
      const transcript = transcriptOf(words ?? [])
      await runner.query(`insert into document (id, kind, revision, aside, body, tape) values ($1, 'transcript', 0, false, $2, $3)`, [
        randomUUID(),
        JSON.stringify(transcript),
        id,
      ])
      await filePhrases(runner.manager, id, transcript)
    }
    await runner.query(`
      drop trigger tape_spoken on tape;
      drop function spoken_words;
      alter table tape drop column spoken, drop column words;
    `)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table tape add column words jsonb, add column spoken tsvector;
      update tape set words = d.body -> 'words' from document d where d.tape = tape.id and d.words > 0;
      create function spoken_words() returns trigger language plpgsql as $$
        begin
          new.spoken := to_tsvector('simple', coalesce((select string_agg(word ->> 'text', ' ')
            from jsonb_array_elements(new.words) word), ''));
          return new;
        end $$;
      create trigger tape_spoken before insert or update of words on tape for each row execute function spoken_words();
      create index tape_spoken on tape using gin (spoken);
      delete from document where kind = 'transcript';
      drop table recognition, bringing, phrase, spelling;
      alter table document drop column words, drop column tape, drop constraint document_kind_check, add check (kind in
        ('tape', 'actuality', 'story'));
    `)
  }
}
