import { toast } from 'sonner'

/** Says what went wrong with something that nobody waits for. */
export const orSay = (asked: Promise<unknown>): void => void asked.catch((error: Error) => toast.error(error.message))
