/** Of the copy that was read, so many words name the piece. */
const SLUG_WORDS = 5

/** What a voice track is called: the first words of its copy. */
export const slugOf = (copy: string): string => copy.split(/\s+/).filter(Boolean).slice(0, SLUG_WORDS).join(' ')
