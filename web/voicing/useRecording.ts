import { useState } from 'react'
import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import type { TapeInfo } from '../../contract/tapes'
import { isRecorded, type Block } from '../../core/page/story'
import { post } from '../api/client'
import type { Handlers } from '../commands/commands'
import { author } from '../documents/waiting'

/** From a page to the microphone: the chosen line, or the first that has no voice track; and lines from a tape that is there. */
export function useRecording(story: string, spine: readonly Block[], chosen: Block | null, isThere: (piece: string) => boolean) {
  const navigate = useNavigate()
  const [laying, setLaying] = useState(false)
  const lines = spine.filter((block) => isRecorded(block) && block.text.trim())
  const missing = lines.filter(({ piece }) => !piece || !isThere(piece))
  /** Lines without a voice track; where all have one, all of them. */
  const wanted = missing.length ? missing : lines
  const line = lines.find((block) => block === chosen) ?? wanted[0]
  const unable = line ? null : 'Write a line of copy first.'
  const go = (query: string) => void navigate(`/stories/${story}/voice?line=${line.id}${query}`)
  const commands = {
    'page.record': { run: () => go(''), unable },
    'page.recordScript': { run: () => go('&whole'), unable },
    'page.layTape': { run: () => setLaying(true), unable },
  } satisfies Handlers
  return {
    commands,
    laying,
    close: () => setLaying(false),
    wanted,
    async findOn(tape: TapeInfo): Promise<void> {
      setLaying(false)
      try {
        await post(`/voicings/${tape.id}`, { story, blocks: wanted.map(({ id }) => id), author })
      } catch (error) {
        toast.error((error as Error).message)
      }
    },
  }
}
