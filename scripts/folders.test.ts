import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { expect, it } from 'vitest'

/** The folders of core and of web stand on one another and never in a circle; files are held to it by the linter. */

const top = join(import.meta.dirname, '..')

/** Which folders each folder imports from, types too, tests aside. */
function imports(root: string): Map<string, Set<string>> {
  const found = new Map<string, Set<string>>()
  const files = readdirSync(join(top, root), { recursive: true, encoding: 'utf8' }).map((file) => join(root, file))
  for (const file of files) {
    if (!/\.tsx?$/.test(file) || file.endsWith('.test.ts')) continue
    const from = dirname(file)
    for (const [, path] of readFileSync(join(top, file), 'utf8').matchAll(/(?:from|import)\s*\(?\s*'(\.[^'?]+)/g)) {
      const to = dirname(join(from, path))
      if (to === from || from === root || to === root || !to.startsWith(root)) continue
      if (!found.has(from)) found.set(from, new Set())
      found.get(from)!.add(to)
    }
  }
  return found
}

/** A way that leads from a folder back to it; null where none does. */
function circle(graph: ReadonlyMap<string, ReadonlySet<string>>): string[] | null {
  const done = new Set<string>()
  const walk = (folder: string, way: string[]): string[] | null => {
    if (way.includes(folder)) return [...way.slice(way.indexOf(folder)), folder]
    if (done.has(folder)) return null
    for (const next of graph.get(folder) ?? []) {
      const found = walk(next, [...way, folder])
      if (found) return found
    }
    done.add(folder)
    return null
  }
  for (const folder of graph.keys()) {
    const found = walk(folder, [])
    if (found) return found
  }
  return null
}

it.each(['core', 'web'])('no folder of %s imports, by whatever way, from a folder that imports from it', (root) => {
  const graph = imports(root)
  expect(graph.size).toBeGreaterThan(8)
  expect(circle(graph)).toBeNull()
})

it('a circle is found', () => {
  const graph = new Map(
    Object.entries({ a: ['b'], b: ['c'], c: ['d', 'b'], d: [] }).map(([folder, others]) => [folder, new Set(others)] as const),
  )
  expect(circle(graph)).toEqual(['b', 'c', 'b'])
})
