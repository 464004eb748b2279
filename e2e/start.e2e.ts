import { spawn, spawnSync, type ChildProcess } from 'node:child_process'
import { existsSync, mkdtempSync, chmodSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { newStory } from '../core/page/story'
import { freePort } from '../scripts/cluster'
import { launch } from './browser'
import { until } from './newsroom'

const top = join(import.meta.dirname, '..')
const data = mkdtempSync(join(tmpdir(), 'plain-cut-start-'))
chmodSync(data, 0o755)

interface Started {
  child: ChildProcess
  said(): string
  ended: Promise<number | null>
}

/** A command itself, as somebody would type it. */
function start(port: number, command: 'start' | 'dev' = 'start'): Started {
  const child = spawn('npm', ['run', command], {
    cwd: top,
    env: { ...process.env, PORT: String(port), PLAIN_CUT_DATA: data, PLAIN_CUT_DEMO: 'none' },
    detached: true,
  })
  let out = ''
  child.stdout.on('data', (chunk) => (out += chunk))
  child.stderr.on('data', (chunk) => (out += chunk))
  return { child, said: () => out, ended: new Promise((done) => child.on('close', done)) }
}
const postgres = () =>
  existsSync(join(data, 'database', 'postmaster.pid'))
    ? Number(readFileSync(join(data, 'database', 'postmaster.pid'), 'utf8').split('\n')[0])
    : 0
const alive = (pid: number) => pid > 0 && spawnSync('kill', ['-0', String(pid)]).status === 0
const answers = (port: number) =>
  fetch(`http://localhost:${port}/api/desk`).then(
    (answer) => answer.ok,
    () => false,
  )

afterAll(() => rmSync(data, { recursive: true, force: true }))

describe('npm start', () => {
  it('serves where it says; a second beside it says so; Ctrl-C ends all that it started', async () => {
    const port = await freePort()
    const first = start(port)
    await until(first.said, (text) => text.includes(`http://localhost:${port}`), 60_000)
    expect(await answers(port)).toBe(true)
    const second = start(port + 1)
    expect(await second.ended).toBe(0)
    expect(second.said()).toContain(`runs already: http://localhost:${port}`)
    const database = postgres()
    expect(alive(database)).toBe(true)
    process.kill(-first.child.pid!, 'SIGINT') // Ctrl-C reaches the whole group
    await first.ended
    expect(alive(database)).toBe(false)
    expect(await answers(port)).toBe(false)
  })

  it('starts its database again when that is killed, says so, and loses no act', { timeout: 120_000 }, async () => {
    const port = await freePort()
    const running = start(port)
    await until(running.said, (text) => text.includes('Ctrl-C'), 60_000)
    const id = crypto.randomUUID()
    const author = crypto.randomUUID()
    const json = (method: string, body: unknown): RequestInit => ({
      method,
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    })
    const ask = (path: string, init: RequestInit) => fetch(`http://localhost:${port}/api${path}`, init)
    await ask(`/documents/${id}`, json('PUT', newStory({ slug: 'before' }, { id: crypto.randomUUID() })))
    process.kill(postgres(), 'SIGKILL')
    const killed = Date.now()
    // an act that is sent again until it is taken, as the page does
    const entry = { id: crypto.randomUUID(), author, label: 'slug', steps: [{ type: 'set', id: 'story', key: 'slug', value: 'after' }] }
    let taken = false
    while (!taken && Date.now() - killed < 15_000) {
      const answer = await ask(`/documents/${id}/steps`, json('POST', { base: 0, entries: [entry] })).catch(() => null)
      taken = answer?.ok === true
      if (answer && !answer.ok) expect(await answer.text()).toMatch(/try again/i)
      if (!taken) await new Promise((done) => setTimeout(done, 100))
    }
    expect(taken).toBe(true)
    expect(Date.now() - killed).toBeLessThan(5000)
    expect(running.said()).toContain('The database ended unexpectedly; starting it again')
    const { body } = (await (await ask(`/documents/${id}`, {})).json()) as { body: { records: { story: { slug: string } } } }
    expect(body.records.story.slug).toBe('after')
    process.kill(-running.child.pid!, 'SIGINT')
    await running.ended
    expect(alive(postgres())).toBe(false)
  })

  it('recovers from one that was killed', async () => {
    const port = await freePort()
    const first = start(port)
    await until(first.said, (text) => text.includes('Ctrl-C'), 60_000)
    const database = postgres()
    process.kill(-first.child.pid!, 'SIGKILL')
    await first.ended
    expect(alive(database)).toBe(true) // left behind
    const second = start(port)
    await until(second.said, (text) => text.includes('Ctrl-C'), 60_000)
    expect(await answers(port)).toBe(true)
    process.kill(-second.child.pid!, 'SIGINT')
    await second.ended
    expect(alive(postgres())).toBe(false)
  })
})

describe('npm run dev', () => {
  it('shows the interface at any address, from its sources', async () => {
    const port = await freePort()
    const running = start(port, 'dev')
    await until(running.said, (text) => text.includes(`http://localhost:${port}`), 60_000)
    const browser = await launch()
    const page = await browser.newPage()
    await page.goto(`http://localhost:${port}/tapes/${crypto.randomUUID()}`)
    await page.getByText('That tape is not here').waitFor({ timeout: 60_000 })
    await browser.close()
    process.kill(-running.child.pid!, 'SIGINT')
    await running.ended
    expect(alive(postgres())).toBe(false)
  })
})
