/** What a disk that is full, or cannot be written, is told as: one plain sentence, without a path or a code. */

const FULL = new Set(['ENOSPC', 'EDQUOT', '53100'])
const READ_ONLY = new Set(['EROFS', 'EACCES', 'EPERM', '25006'])

const codeOf = (error: unknown): string => {
  const { code, message } = (error ?? {}) as { code?: unknown; message?: unknown }
  if (typeof code === 'string') return code
  // a thread hands on what an error said, not what it carried
  return /^(E[A-Z]+):/.exec(String(message ?? ''))?.[1] ?? ''
}

export const isDiskFault = (error: unknown): boolean => FULL.has(codeOf(error)) || READ_ONLY.has(codeOf(error))

/** The sentence for a disk fault. */
export const diskFault = (error: unknown): string => (FULL.has(codeOf(error)) ? 'The disk is full.' : 'The disk can’t be written to.')

/** Why something failed, for a person: nothing of paths, codes and other programs' words. */
export const plainReason = (error: unknown): string => (isDiskFault(error) ? diskFault(error) : 'Something went wrong on this machine.')
