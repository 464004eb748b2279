/// <reference lib="webworker" />

/**
 * A service worker for boards alone: what a board is made of is kept in the browser, and answers where the server does
 * not, so that a board opens without one. The server always comes first.
 */

/** What a page asks it to keep: the board, and the addresses that it is made of. */
export interface ToKeep {
  board: string
  paths: readonly string[]
}

const worker = globalThis as unknown as ServiceWorkerGlobalScope
const PAGE = '/live'
/** A server that does not answer for so long does not answer, if what it would say is kept. */
const PATIENCE_MS = 3000
const PROGRAM = 'program'
const boardCache = (board: string) => `board ${board}`

worker.addEventListener('install', () => void worker.skipWaiting())
worker.addEventListener('activate', (event) => event.waitUntil(worker.clients.claim()))
worker.addEventListener('message', (event) => {
  const { board, paths } = event.data as ToKeep
  const done = Promise.all([keepProgram(), keepAll(boardCache(board), paths)])
  event.waitUntil(done.then(() => event.source?.postMessage({ kept: board })).catch(() => undefined))
})
worker.addEventListener('fetch', (event) => {
  const { request } = event
  const { origin, pathname } = new URL(request.url)
  if (request.method !== 'GET' || origin !== location.origin) return
  if (request.mode === 'navigate') event.respondWith(answer(request, PAGE))
  else if (pathname.startsWith('/assets/') || /^\/api\/(boards|documents|tapes)\b(?!.*\/(sound|peaks)\/)/.test(pathname))
    event.respondWith(answer(request, pathname))
})

/** From the server; where that fails or is late, what is kept of the address. */
async function answer(request: Request, path: string): Promise<Response> {
  const asked = fetch(request)
  const kept = request.url.includes('?') ? undefined : await caches.match(path)
  if (!kept) return asked
  const late = new Promise<Response>((done) => setTimeout(() => done(kept), PATIENCE_MS))
  return Promise.race([asked.catch(() => kept), late])
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
