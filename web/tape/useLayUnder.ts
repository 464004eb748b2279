import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import { toFacts, type TapeInfo } from '../../contract/tapes'
import { firstOutput, spineOf, USUAL_LOUDNESS } from '../../core/page/story'
import type { Stretch } from '../../core/time'
import { liveDocument } from '../documents/useDocument'
import { loudnessOfTape } from '../levels/voiceLoudness'
import { edgesUnder, layUnder, likely, upLevel } from '../story/layUnder'
import { keptNow } from '../ui/useKept'

/** Lays what is selected of a tape, or all of it, under the blocks that are chosen on the story's page, or under all of it. */
export function useLayUnder(tape: TapeInfo, story: string | null, selected: Stretch | null) {
  const navigate = useNavigate()
  const lay = async () => {
    if (!story) return
    const { from, to } = selected ?? { from: 0, to: tape.frames }
    const live = await liveDocument(story, 'story')
    const spine = spineOf(live.body)
    const chosen = keptNow.get<readonly string[]>(`page/${story}/chosen`, [])
    const blocks = spine.filter(({ id }) => chosen.includes(id))
    const loudness = await loudnessOfTape(tape.id, from, to, () => toFacts(tape))
    const under = likely(tape.name)
    const { hanger, steps } = layUnder(live.body, { tape: tape.id, from, to }, under, edgesUnder(blocks, spine))
    const gain = upLevel(under, firstOutput(live.body).loudness ?? USUAL_LOUDNESS, loudness) ?? 0
    live.act(
      steps.map((step) => (step.type === 'put' && step.record.id === hanger.id ? { type: 'put', record: { ...hanger, gain } } : step)),
      { label: `lay ${tape.name} under` },
    )
    keptNow.set(`page/${story}/hanger`, hanger.id)
    toast.success(blocks.length ? 'Laid under the chosen blocks.' : 'Laid under the page.', {
      action: { label: 'To the page', onClick: () => void navigate(`/stories/${story}`) },
    })
  }
  return {
    run: () => void lay().catch((error: Error) => toast.error(error.message)),
    title: selected ? 'Lay the selection under the page' : 'Lay the tape under the page',
    unable: story ? null : 'Open the tape from a story first.',
  }
}
