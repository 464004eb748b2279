import { createHash } from 'node:crypto'
import { createWriteStream, readFileSync, writeFileSync } from 'node:fs'
import { rm } from 'node:fs/promises'
import { pipeline } from 'node:stream/promises'
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import { type Inbox } from './inbox'

/** A stand-in for a system that takes files by HTTP: PUT, HEAD and GET under `/files/`, and a form at `/form`. */
export function httpDoor(inbox: Inbox): Server {
  const keys = new Set<string>()
  let count = 0

  async function put(request: IncomingMessage, response: ServerResponse, name: string): Promise<void> {
    const part = `.coming-${count++}`
    const anew = request.headers['if-none-match'] === '*'
    if (anew && inbox.size(name) !== null) return end(response, 412)
    if (!(await take(request, part))) return
    if (!(await inbox.name('PUT', part, name, !anew))) {
      await rm(inbox.at(part))
      return end(response, 412)
    }
    end(response, 201)
  }

  /** All of a body; false where it broke off, and then nothing is kept. */
  async function take(request: IncomingMessage, part: string): Promise<boolean> {
    try {
      await pipeline(request, (chunks: AsyncIterable<Buffer>) => inbox.paced(chunks), createWriteStream(inbox.at(part)))
      if (request.complete) return true
    } catch {
      // it broke off
    }
    await rm(inbox.at(part), { force: true })
    return false
  }

  async function form(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const part = `.coming-${count++}`
    if (!(await take(request, part))) return
    const type = request.headers['content-type'] ?? ''
    const sent = await new Response(readFileSync(inbox.at(part)), { headers: { 'Content-Type': type } }).formData().catch(() => null)
    await rm(inbox.at(part))
    const file = [...(sent?.values() ?? [])].find((one): one is File => one instanceof File)
    if (!file) return end(response, 400)
    const key = String(request.headers['idempotency-key'] ?? '')
    if (inbox.heedsKey && keys.has(key)) return end(response, 200)
    if (inbox.size(file.name) !== null) return end(response, 409)
    writeFileSync(inbox.at(part), Buffer.from(await file.arrayBuffer()))
    await inbox.name('form', part, file.name, false)
    keys.add(key)
    end(response, 201)
  }

  function end(response: ServerResponse, status: number): void {
    if (inbox.faults.mute) return void response.destroy()
    response.writeHead(status).end()
  }

  function tell(response: ServerResponse, name: string, content: boolean): void {
    const size = inbox.faults.closed ? null : inbox.size(name)
    if (size === null) return void response.writeHead(404).end()
    const hash = createHash('sha256')
      .update(readFileSync(inbox.at(name)))
      .digest('base64')
    response.writeHead(200, { 'Content-Length': size, ...(inbox.faults.lies ? {} : { 'Repr-Digest': `sha-256=:${hash}:` }) })
    if (content) inbox.read(name).pipe(response)
    else response.end()
  }

  return createServer((request, response) => {
    const [user, password] = Buffer.from((request.headers.authorization ?? '').replace('Basic ', ''), 'base64')
      .toString()
      .split(':')
    if (!inbox.lets(user, password ?? '')) return void response.writeHead(401).end()
    if (inbox.faults.full && request.method !== 'HEAD') return void response.writeHead(507).end()
    const [, door, name = ''] = /^\/(\w+)\/?(.*)$/.exec(decodeURIComponent(request.url ?? '')) ?? []
    if (door === 'form' && request.method === 'POST') void form(request, response)
    else if (door === 'files' && request.method === 'PUT') void put(request, response, name)
    else if (door === 'files' && (request.method === 'HEAD' || request.method === 'GET')) tell(response, name, request.method === 'GET')
    else response.writeHead(404).end()
  })
}
