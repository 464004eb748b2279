import { createWriteStream } from 'node:fs'
import { rm } from 'node:fs/promises'
import { createServer, type AddressInfo, type Server, type Socket } from 'node:net'
import { pipeline } from 'node:stream/promises'
import type { Inbox } from './inbox'

/** A stand-in for a server of FTP: the part of RFC 959, with EPSV (RFC 2428) and SIZE (RFC 3659), that putting a file there takes. */
export function ftpDoor(inbox: Inbox): Server {
  return createServer((socket) => {
    socket.on('error', () => undefined)
    new Conversation(socket, inbox).begin()
  })
}

class Conversation {
  private user = ''
  private known = false
  private from = ''
  private data: Promise<Socket> | null = null
  private listening: Server | null = null

  constructor(
    private readonly socket: Socket,
    private readonly inbox: Inbox,
  ) {}

  begin(): void {
    let rest = ''
    let before = Promise.resolve()
    this.say('220 Stand-in for a playout system')
    this.socket.on('close', () => this.listening?.close())
    this.socket.on('data', (chunk) => {
      const lines = (rest + chunk.toString()).split('\r\n')
      rest = lines.pop()!
      for (const line of lines) {
        const space = line.indexOf(' ')
        const [verb, word] = space < 0 ? [line, ''] : [line.slice(0, space), line.slice(space + 1)]
        before = before.then(() => this.answer(verb.toUpperCase(), word)).catch(() => this.say('451 It went wrong'))
      }
    })
  }

  private say = (line: string): void => void this.socket.write(`${line}\r\n`)

  private async answer(verb: string, word: string): Promise<void> {
    const { inbox } = this
    if (verb === 'USER') {
      this.user = word
      return this.say('331 And the password')
    }
    if (verb === 'PASS') {
      this.known = inbox.lets(this.user, word)
      return this.say(this.known ? '230 Come in' : '530 Not known')
    }
    if (verb === 'FEAT') return this.say('211-Can do\r\n SIZE\r\n EPSV\r\n UTF8\r\n211 End')
    if (verb === 'QUIT') return void this.socket.end('221 Goodbye\r\n')
    if (!this.known) return this.say('530 Not known')
    switch (verb) {
      case 'TYPE':
      case 'STRU':
      case 'OPTS':
      case 'NOOP':
        return this.say('200 Yes')
      case 'CWD':
        return this.say(/^\/?(in)?\/?$/.test(word) ? '250 There' : '550 No such folder')
      case 'PWD':
        return this.say('257 "/in"')
      case 'SIZE': {
        const size = inbox.size(word)
        return this.say(size === null ? '550 Not there' : `213 ${size}`)
      }
      case 'EPSV':
        return this.listen()
      case 'STOR':
        return this.store(word)
      case 'RETR':
        return this.give(word)
      case 'DELE':
        await rm(inbox.at(word), { force: true })
        return this.say('250 Gone')
      case 'RNFR':
        this.from = word
        return this.say(inbox.size(word) === null ? '550 Not there' : '350 And the new name')
      case 'RNTO':
        // as most servers do: what has that name is replaced
        await inbox.name('FTP', this.from, word, true)
        return inbox.faults.mute ? void this.socket.destroy() : this.say('250 Renamed')
      default:
        return this.say('502 Not here')
    }
  }

  private async listen(): Promise<void> {
    this.listening?.close()
    const server = createServer()
    this.listening = server
    this.data = new Promise((done) =>
      server.once('connection', (socket) => {
        socket.on('error', () => undefined)
        socket.pause()
        done(socket)
        server.close()
      }),
    )
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
    this.say(`229 Here (|||${(server.address() as AddressInfo).port}|)`)
  }

  private async store(name: string): Promise<void> {
    const { inbox } = this
    if (inbox.faults.full) return this.say('552 Full')
    this.say('150 Go on')
    const data = await this.data!
    await pipeline(data, (chunks: AsyncIterable<Buffer>) => inbox.paced(chunks), createWriteStream(inbox.at(name)))
    this.say('226 All of it')
  }

  private async give(name: string): Promise<void> {
    const data = await this.data!
    if (this.inbox.faults.closed) {
      data.destroy()
      return this.say('550 Not to be read')
    }
    this.say('150 Here it comes')
    await pipeline(this.inbox.read(name), data)
    this.say('226 All of it')
  }
}
