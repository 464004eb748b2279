/** Cues and notes stand in square brackets: they are read by nobody and take no time. */
export const withoutNotes = (text: string): string => text.replace(/\[[^\]]*\]/g, ' ')
