import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { GlobalFonts } from '@napi-rs/canvas'
import { SANS, SERIF } from '../../core/picture/draw'

/** The fonts that the application ships with, by the names that its pages know them by. */
const ALPHABETS = ['latin', 'latin-ext', 'cyrillic', 'cyrillic-ext', 'greek', 'vietnamese']
const PACKAGES = [
  ['literata', SERIF],
  ['public-sans', SANS],
] as const

let there = false

export function bringFonts(): void {
  if (there) return
  there = true
  const { resolve } = createRequire(import.meta.url)
  for (const [name, family] of PACKAGES) {
    const folder = join(dirname(resolve(`@fontsource-variable/${name}/package.json`)), 'files')
    // an alphabet that a font does not have has no file
    for (const alphabet of ALPHABETS) GlobalFonts.registerFromPath(join(folder, `${name}-${alphabet}-wght-normal.woff2`), family)
  }
}
