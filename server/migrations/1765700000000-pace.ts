import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Every line had a reading speed; now only those have one that somebody gave it. 170 words a minute was what nobody had set. */
export class Pace1765700000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      update document set body = jsonb_set(body, '{records}', (
        select jsonb_object_agg(key, case when value->'pace' = '170' and value ? 'reader' then value - 'pace' else value end)
        from jsonb_each(body->'records')
      ))
      where kind = 'story' and body->'records' @? '$.* ? (@.pace == 170)'`)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      update document set body = jsonb_set(body, '{records}', (
        select jsonb_object_agg(key, case when value ? 'reader' and not value ? 'pace' then value || '{"pace": 170}' else value end)
        from jsonb_each(body->'records')
      ))
      where kind = 'story' and body->'records' @? '$.* ? (exists (@.reader))'`)
  }
}
