import type { RequestHandler } from 'express'
import helmet from 'helmet'
import { Refusal } from './problem'

/**
 * Refuses requests that name another host, or that another site's page makes: a page elsewhere
 * must not reach this server through the reporter's own browser. `more` are origins that a
 * development server adds.
 */
export function guard(port: number, more: readonly string[]): RequestHandler {
  const hosts = new Set(['localhost', '127.0.0.1', '[::1]'].map((name) => `${name}:${port}`))
  const origins = new Set([...[...hosts].map((host) => `http://${host}`), ...more])
  for (const origin of more) hosts.add(new URL(origin).host)
  return (request, _response, next) => {
    if (!hosts.has(request.headers.host ?? '')) throw new Refusal(403, 'Wrong address', 'This server answers only to its own address.')
    const { origin } = request.headers
    if (origin !== undefined && !origins.has(origin)) throw new Refusal(403, 'Not from here', 'Requests from other pages are refused.')
    if (request.headers['sec-fetch-site'] === 'cross-site')
      throw new Refusal(403, 'Not from here', 'Requests from other pages are refused.')
    next()
  }
}

/** Content security policy, and the isolation that shared memory for playing needs. */
export const headers: RequestHandler = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'self'"],
      // the network against moving noise is WebAssembly
      scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
      styleSrc: ["'self'", "'unsafe-inline'"],
      imgSrc: ["'self'", 'data:', 'blob:'],
      fontSrc: ["'self'"],
      workerSrc: ["'self'"],
      objectSrc: ["'none'"],
      baseUri: ["'none'"],
      formAction: ["'self'"],
      frameAncestors: ["'none'"],
    },
  },
  crossOriginEmbedderPolicy: true,
  crossOriginOpenerPolicy: { policy: 'same-origin' },
  strictTransportSecurity: false,
})
