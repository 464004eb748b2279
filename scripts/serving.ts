import { fork, type ChildProcess } from 'node:child_process'
import { join } from 'node:path'

const top = join(import.meta.dirname, '..')

export interface Serving {
  child: ChildProcess
  stop(): Promise<void>
}

/** Starts the server as a process of its own, as it was built or from its sources, and waits until it listens. */
export function serve(environment: Record<string, string>, from: 'build' | 'sources' = 'build'): Promise<Serving> {
  const [main, execArgv] =
    from === 'build' ? [join('built', 'main.js'), ['--enable-source-maps']] : [join('server', 'main.ts'), ['--import', 'tsx']]
  const child = fork(join(top, main), { execArgv, cwd: top, env: { ...process.env, ...environment } })
  const stop = () =>
    new Promise<void>((done) => {
      if (child.exitCode !== null || child.signalCode !== null) return done()
      child.once('exit', () => done())
      child.kill('SIGTERM')
    })
  return new Promise((resolve, reject) => {
    child.once('message', () => resolve({ child, stop }))
    child.once('exit', (code) => reject(new Error(`The server ended with ${code} before it listened.`)))
  })
}
