import { Circle, Square } from 'lucide-react'
import { useEffect, useRef } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import type { LineTake } from './useTakes'
import { readingTime } from '../../core/page/reading'
import { isRecorded, spineOf, type Block, type StoryDocument } from '../../core/page/story'
import { pacesOn } from '../../core/page/timing'
import { textChange } from '../../core/steps/text'
import { clock, RATE } from '../../core/time'
import { clipLength } from '../../core/edits/actuality'
import { CommandButton, CommandKey } from '../commands/CommandButton'
import { useCommands } from '../commands/commands'
import type { LiveDocument } from '../documents/liveDocument'
import { useDocument } from '../documents/useDocument'
import { useFollowedUndo } from '../documents/useUndo'
import { useStoryPieces } from '../api/queries'
import { InputMeter } from '../record/InputMeter'
import { listenTo } from '../record/recorder'
import { STATES } from '../record/states'
import { Crumb, Shell } from '../shell/Shell'
import { Button, Empty } from '../ui/parts'
import { useTakes } from './useTakes'
import { Takes } from './Takes'
import { COUNTS, useVoicing } from './useVoicing'

/** Lines of copy, read into the microphone one after the other, or the whole script in one go; each take goes to its line. */
export function VoicingView() {
  const { id = '' } = useParams()
  const document = useDocument(id, 'story')
  if (document && 'error' in document)
    return (
      <Shell path={<Crumb>No story here</Crumb>}>
        <Empty title="Story not found">It may have been deleted, or the address is wrong.</Empty>
      </Shell>
    )
  if (!document) return <Shell path={<Crumb>Opening …</Crumb>}>{null}</Shell>
  return <Voicing key={id} id={id} live={document.live} body={document.body} />
}

function Voicing({ id, live, body }: { id: string; live: LiveDocument<'story'>; body: StoryDocument }) {
  const navigate = useNavigate()
  const [params] = useSearchParams()
  const whole = params.has('whole')
  const lines = spineOf(body).filter((block) => isRecorded(block) && block.text.trim())
  const first = Math.max(
    0,
    lines.findIndex((block) => block.id === params.get('line')),
  )
  const voicing = useVoicing(id, lines, first, { whole, atOnce: !params.has('takes') })
  const { line, at, running, counting, recorder, done } = voicing
  const takes = useTakes(id, line ?? null)
  const paces = usePaces(id, body)
  useFollowedUndo(live)
  const back = () => void navigate(`/stories/${id}`)
  useEffect(() => {
    if (voicing.sent) back()
    // once it is on its way
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [voicing.sent])
  const use = ({ row, counts }: LineTake) => {
    if (!counts) live.act([{ type: 'set', id: line.id, key: 'piece', value: row.id }], { label: 'choose a take' })
  }
  const press = {
    run: voicing.press,
    title: running || counting !== null ? 'End the take' : done && at + 1 < lines.length ? 'Record the next line' : 'Record this line',
  }
  const idle = !running && counting === null
  useCommands({
    'page.record': press,
    'page.recordAgain': { run: voicing.again, title: 'Record the line again' },
    'page.next': () => voicing.go(1),
    'page.previous': () => voicing.go(-1),
    ...(idle && takes.chosen
      ? {
          'play.toggle': { run: () => void takes.hear(takes.chosen!), title: 'Play the take', free: true },
          'join.next': { run: () => takes.step(1), title: 'Play the next take', free: true },
          'join.previous': { run: () => takes.step(-1), title: 'Play the take before', free: true },
          'page.write': { run: () => use(takes.chosen!), title: 'Use this take' },
        }
      : {}),
    'select.clear': { run: back, title: 'Back to the page', free: true },
    'go.up': back,
  })
  const expected = line ? readingTime(line.text, paces(line)) : 0
  return (
    <Shell
      path={
        <>
          <Crumb to={`/stories/${id}`}>{storyName(body)}</Crumb>
          <Crumb>{whole ? 'Record the script' : 'Record the lines'}</Crumb>
        </>
      }
    >
      {recorder.error ? (
        <Empty title="No input.">
          <p className="mb-4">{recorder.error}</p>
          <Button onClick={() => void listenTo('')}>Try again</Button>
        </Empty>
      ) : !line ? (
        <Empty title="There is no copy to record.">Write a line on the page first.</Empty>
      ) : (
        <div className="flex min-h-0 flex-1 max-[860px]:flex-col">
          <div className="min-h-0 flex-1 overflow-y-auto px-14 py-10 max-[860px]:px-5">
            <Script lines={lines} at={at} live={running} whole={whole} counting={counting} />
          </div>
          <div className="flex w-[340px] shrink-0 flex-col gap-6 overflow-y-auto border-l border-rule px-6 py-8 max-[860px]:w-full">
            <div>
              <p className="text-[13px] text-faint" role="status">
                {recorder.stalled ? 'no input from the microphone' : counting !== null ? 'count-in' : STATES[recorder.state]}
              </p>
              <p
                data-testid="take-length"
                className={`mt-1 text-[52px] leading-none font-bold tracking-tight ${running ? 'text-cut-ink' : ''}`}
              >
                {running || done ? clock(recorder.frames) : '0:00.0'}
              </p>
              {!whole && <TimeLeft taken={running ? recorder.frames : 0} expected={expected} />}
            </div>
            <InputMeter />
            <div className="flex flex-wrap gap-2">
              <CommandButton id="page.record" look={running || counting !== null ? 'strong' : 'cut'}>
                {running || counting !== null ? <Square size={14} /> : <Circle size={13} fill="currentColor" />} {press.title}{' '}
                <CommandKey id="page.record" />
              </CommandButton>
              {idle && takes.takes.length > 0 && !whole && (
                <CommandButton id="page.recordAgain">
                  Again <CommandKey id="page.recordAgain" />
                </CommandButton>
              )}
            </div>
            {!running && (
              <fieldset className="flex items-center gap-3 text-[13px] text-soft">
                <legend className="sr-only">Count-in</legend>
                <span aria-hidden>Count-in</span>
                {COUNTS.map((seconds) => (
                  <label key={seconds} className="flex items-center gap-1">
                    <input
                      type="radio"
                      name="count-in"
                      className="accent-[var(--tape)]"
                      checked={voicing.countIn === seconds}
                      onChange={() => voicing.setCountIn(seconds)}
                    />
                    {seconds ? `${seconds} s` : 'none'}
                  </label>
                ))}
              </fieldset>
            )}
            {!whole && (
              <Takes
                line={line}
                takes={takes.takes}
                chosen={takes.chosen}
                idle={idle}
                onHear={(take) => void takes.hear(take)}
                onUse={use}
                onWriteAsSaid={(text) =>
                  live.act([{ type: 'write', id: line.id, key: 'text', change: textChange(line.text, text) }], {
                    label: 'write as it was said',
                  })
                }
              />
            )}
            <p className="mt-auto text-[13px] text-faint">
              {whole
                ? 'Read on from line to line. Say a line again whenever it goes wrong: the last whole one counts.'
                : 'A take is trimmed to its first and last word and goes to its line. Earlier ones stay.'}
            </p>
          </div>
        </div>
      )}
    </Shell>
  )
}

const storyName = (body: StoryDocument): string => {
  const head = body.records.story
  return head && 'slug' in head ? head.slug : 'Story'
}

/** The pace of each line on the page, as its readers' takes show it. */
function usePaces(story: string, body: StoryDocument) {
  const rows = useStoryPieces(story).data
  return pacesOn(spineOf(body), (piece) => {
    const found = rows?.find((row) => row.id === piece)?.body
    return found && { length: clipLength(found), head: found.head, tail: found.tail }
  })
}

interface ScriptProps {
  lines: readonly Block[]
  at: number
  live: boolean
  whole: boolean
  counting: number | null
}

/** The line that is read, large, with the one before and those after it smaller. */
function Script({ lines, at, live, whole, counting }: ScriptProps) {
  const current = useRef<HTMLLIElement>(null)
  // what it gives is no clean-up: newer browsers tell by it when they have scrolled
  useEffect(() => void current.current?.scrollIntoView({ block: 'center', behavior: 'smooth' }), [at])
  const shown = whole ? lines : lines.slice(Math.max(0, at - 1), at + 3)
  return (
    <ol className="mx-auto flex max-w-[46rem] flex-col gap-7" data-testid="script">
      {shown.map((line) => {
        const here = line === lines[at]
        const size = here || whole ? 'text-[28px]' : 'text-[17px]'
        return (
          <li
            key={line.id}
            ref={here ? current : undefined}
            aria-current={here || undefined}
            className={`border-l-2 pl-6 transition-colors ${here ? (live ? 'border-cut' : 'border-ink') : 'border-transparent'}`}
          >
            <span className="text-[13px] text-faint">
              {lines.indexOf(line) + 1} of {lines.length}
              {line.reader && `, ${line.reader}`}
              {here && counting !== null && <span className="ml-3 font-bold text-cut-ink">{counting}</span>}
            </span>
            <p className={`font-serif leading-relaxed ${size} ${here || (whole && live) ? '' : 'text-soft'}`}>{line.text}</p>
          </li>
        )
      })}
    </ol>
  )
}

/** How long the line usually takes, and how much of that has passed. */
function TimeLeft({ taken, expected }: { taken: number; expected: number }) {
  return (
    <div className="mt-3" title="How long this reader usually takes for the line">
      <div className="h-1 overflow-hidden rounded-full bg-rule">
        <div className="h-full bg-ink" style={{ width: `${Math.min(100, (taken / Math.max(RATE, expected)) * 100)}%` }} />
      </div>
      <p className="mt-1 text-[13px] text-faint">of about {clock(expected)}</p>
    </div>
  )
}
