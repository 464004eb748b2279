import { spawn, spawnSync, type ChildProcess } from 'node:child_process'
import { existsSync, mkdtempSync, chmodSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
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
  const child = spawn('npm', ['run', command], { cwd: top, env: { ...process.env, PORT: String(port), PLAIN_CUT_DATA: data, PLAIN_CUT_DEMO: 'none' }, detached: true })
  let out = ''
  child.stdout.on('data', (chunk) => (out += chunk))
  child.stderr.on('data', (chunk) => (out += chunk))
  return { child, said: () => out, ended: new Promise((done) => child.on('close', done)) }
}
const postgres = () => (existsSync(join(data, 'database', 'postmaster.pid')) ? Number(readFileSync(join(data, 'database', 'postmaster.pid'), 'utf8').split('\n')[0]) : 0)
const alive = (pid: number) => pid > 0 && spawnSync('kill', ['-0', String(pid)]).status === 0
const answers = (port: number) => fetch(`http://localhost:${port}/api/desk`).then((answer) => answer.ok, () => false)

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
