import { create } from 'zustand'

/** Text files that were dropped or chosen, until somebody has said what each of them is. */
export const useTexts = create<{ waiting: readonly File[] }>(() => ({ waiting: [] }))

const TEXT = /\.(txt|docx?|srt|vtt|json|rtf|odt|csv)$/i

export const isText = ({ name }: File): boolean => TEXT.test(name)
export const askWhatItIs = (file: File): void => useTexts.setState(({ waiting }) => ({ waiting: [...waiting, file] }))
export const answered = (file: File): void => useTexts.setState(({ waiting }) => ({ waiting: waiting.filter((one) => one !== file) }))
