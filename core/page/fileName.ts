import { RATE, type Frames } from '../time'

export interface NameParts {
  slug: string
  client: string
  /** Of the story's air time, or of today: `2026-11-25`. */
  date: string
  length: Frames
}

/**
 * A file name from a pattern: `{slug}`, `{client}`, `{date}` and `{length}` (`3m30s`) are put in,
 * and whatever a file system or a playout system could stumble over becomes a hyphen.
 */
export function fileNameFrom(pattern: string, parts: NameParts, extension: string): string {
  const seconds = Math.round(parts.length / RATE)
  const length = `${Math.floor(seconds / 60)}m${String(seconds % 60).padStart(2, '0')}s`
  const filled = pattern
    .replaceAll('{slug}', parts.slug)
    .replaceAll('{client}', parts.client)
    .replaceAll('{date}', parts.date)
    .replaceAll('{length}', length)
  const plain = filled
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^A-Za-z0-9._ -]+/g, '-')
    .replace(/[\s-]+/g, '-')
    .replace(/_-|-_/g, '_')
    .replace(/_+/g, '_')
    .replace(/^[-_.]+|[-_.]+$/g, '')
  return `${plain.slice(0, 120) || 'piece'}.${extension}`
}
