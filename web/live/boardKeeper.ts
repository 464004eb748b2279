/// <reference lib="webworker" />

/**
 * A service worker for boards alone: what a board is made of is kept in the browser, and answers where the server does
 * not, so that a board opens without one. The server always comes first.
 */

/** What it tells a page: that what it asked for is kept, or that the server answered after what was kept was handed out. */
export type FromKeeper = { kept: number } | { late: string }

/** What a page asks it to keep: the board, and the addresses that it is made of. */
export interface ToKeep {
  /** Which time it asks, to be told when that is done. */
  ask: number
  board: string
  paths: readonly string[]
}

const worker = globalThis as unknown as ServiceWorkerGlobalScope
const PAGE = '/live'
/** A server that does not answer for so long does not answer, if what it would say is kept. */
const PATIENCE_MS = 5000
const PROGRAM = 'program'
const boardCache = (board: string) => `board ${board}`

worker.addEventListener('install', () => void worker.skipWaiting())
worker.addEventListener('activate', (event) => event.waitUntil(worker.clients.claim()))
worker.addEventListener('message', (event) => {
  const { ask, board, paths } = event.data as ToKeep
  const done = Promise.all([keepProgram(), keepAll(boardCache(board), paths)])
  event.waitUntil(done.then(() => event.source?.postMessage({ kept: ask } satisfies FromKeeper)).catch(() => undefined))
})
worker.addEventListener('fetch', (event) => {
  const { request } = event
  const { origin, pathname } = new URL(request.url)
  if (request.method !== 'GET' || origin !== location.origin) return
  const late = () => void worker.clients.get(event.clientId).then((page) => page?.postMessage({ late: pathname } satisfies FromKeeper))
  if (request.mode === 'navigate') event.respondWith(answer(request, PAGE, late))
  else if (pathname.startsWith('/assets/') || /^\/api\/(boards|documents|tapes)\b(?!.*\/(sound|peaks)\/)/.test(pathname))
    event.respondWith(answer(request, pathname, late))
})

/** From the server; where it fails or is late, what is kept of the address. `late`: the server answered after that. */
async function answer(request: Request, path: string, late: () => void): Promise<Response> {
  const asked = fetch(request)
  const kept = request.url.includes('?') ? undefined : await caches.match(path)
  if (!kept) return asked
  let waited = false
  // without its database the server answers, too, but with nothing
  const found = asked.then(
    (answered) => (answered.status >= 500 ? kept : answered),
    () => kept,
  )
  void found.then((one) => waited && one !== kept && late())
  const patience = new Promise<Response>((done) => setTimeout(() => done(kept), PATIENCE_MS)).finally(() => (waited = true))
  return Promise.race([found, patience])
}

/** The page and all files that it may ask for, as they were built. */
async function keepProgram(): Promise<void> {
  const files = (await (await fetch('/assets.json', { cache: 'no-cache' })).json()) as string[]
  const cache = await caches.open(PROGRAM)
  const there = new Set((await cache.keys()).map(({ url }) => new URL(url).pathname))
  // a file is named by what is in it: what is there is as it was
  await cache.addAll(files.filter((path) => !there.has(path)))
  await cache.add(new Request(PAGE, { cache: 'no-cache' }))
  await keepOnly(cache, [PAGE, ...files])
}

async function keepAll(name: string, paths: readonly string[]): Promise<void> {
  const cache = await caches.open(name)
  await Promise.all(
    paths.map(async (path) => {
      const found = await fetch(path)
      // a tape without words answers with a refusal, and that is an answer
      if (found.ok || found.status === 404) await cache.put(path, found)
    }),
  )
  await keepOnly(cache, paths)
}

async function keepOnly(cache: Cache, paths: readonly string[]): Promise<void> {
  const wanted = new Set(paths)
  for (const request of await cache.keys()) if (!wanted.has(new URL(request.url).pathname)) await cache.delete(request)
}
