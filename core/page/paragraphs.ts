/** The paragraphs of a script in order: parts between empty lines, or each line where there are none. Spaces within are single. */
export function paragraphs(text: string): string[] {
  const clean = text
    .replace(/\r\n?/g, '\n')
    .replace(/\uFEFF/g, '')
    .trim()
  const parts = /\n\s*\n/.test(clean) ? clean.split(/\n\s*\n/) : clean.split('\n')
  return parts.map((part) => part.replace(/\s+/g, ' ').trim()).filter(Boolean)
}
