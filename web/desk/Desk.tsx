import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { MoreHorizontal } from 'lucide-react'
import type { OutputRow, StoryRow } from '../../contract/desk'
import { newStory } from '../../core/page/story'
import { clock, toFrames } from '../../core/time'
import { parseLength } from '../../core/typed'
import { patch, post, put } from '../api/client'
import { orSay } from '../api/orSay'
import { useOnce } from '../api/useOnce'
import { useDesk } from '../api/queries'
import { useCommands } from '../commands/commands'
import { liveDocument } from '../documents/useDocument'
import { useLibraryFacts } from '../library/useLibrary'
import { EditableText } from '../ui/EditableText'
import { unread } from '../ui/FigureInput'
import { Button, Dialog, Empty, Field, Menu, MenuItem } from '../ui/parts'
import { saveAsFile, StoryFiles } from '../keeping/StoryFiles'
import { SetAside } from '../shell/SetAside'
import { Crumb, Heading, Shell, Side } from '../shell/Shell'
import { useNow } from '../ui/useNow'
import { AirFields } from '../story/AirFields'
import { airTime, typedAirTime, untilAir } from '../story/airTime'
import { CommandButton, CommandKey } from '../commands/CommandButton'

/** Stories by air time, with what each still lacks. */
export function Desk() {
  const navigate = useNavigate()
  const { data, error } = useDesk()
  const tapes = useLibraryFacts().data?.tapes
  const [making, setMaking] = useState(false)
  useCommands({ 'new.story': () => setMaking(true) })
  const stories = data?.stories.filter((story) => !story.aside) ?? []
  const aside = data?.stories.filter((story) => story.aside) ?? []
  const PLACE = { tape: 'tapes', actuality: 'pieces', story: 'stories' }
  const KIND = { tape: 'tape', actuality: 'actuality', story: 'story' }
  return (
    <Shell
      path={<Crumb>Desk</Crumb>}
      aside={
        <Side label="Tapes and what was worked on last">
          <Heading>Recent</Heading>
          <ul className="mb-6">
            {data?.recent.map((one) => (
              <li key={one.id} className="border-b border-rule">
                <Link to={`/${PLACE[one.kind]}/${one.id}`} className="flex justify-between gap-3 py-2 hover:bg-paper-low">
                  <span className="min-w-0 truncate font-medium">{one.name || 'Untitled'}</span>
                  <span className="shrink-0 text-[13px] text-faint">{KIND[one.kind]}</span>
                </Link>
              </li>
            ))}
          </ul>
          <Heading>Tapes</Heading>
          <p className="py-2 text-soft">
            {tapes === undefined ? ' ' : `${tapes} ${tapes === 1 ? 'tape' : 'tapes'} here.`} Drop a file anywhere to import another.
          </p>
          <Link
            to="/tapes"
            className={`inline-flex h-8 items-center rounded-md border border-rule bg-paper-lit px-3 text-[13px] font-medium
              hover:border-grain`}
          >
            All tapes
          </Link>
          <StoryFiles />
        </Side>
      }
    >
      <div className="min-h-0 flex-1 overflow-y-auto px-10 py-8 max-[1180px]:px-6">
        <div className="mb-5 flex items-baseline justify-between">
          <h1 className="font-serif text-[28px] font-semibold">Stories</h1>
          <CommandButton id="new.story" look="strong">
            New story
          </CommandButton>
        </div>
        {error && <Empty title="Can’t reach the server; trying again.">This page fills as soon as it answers.</Empty>}
        {data && data.broken.length > 0 && (
          <p role="alert" className="mb-5 border-l-2 border-cut pl-3 text-[13px]">
            {data.broken.length === 1
              ? 'One story can’t be shown: its record is damaged.'
              : `${data.broken.length} stories can’t be shown: their records are damaged.`}{' '}
            All others are as they were. Stop Plain Cut and run <code>npm run mend</code>, which says what is wrong with{' '}
            <span className="text-faint">{data.broken.join(', ')}</span>.
          </p>
        )}
        {data && stories.length === 0 && (
          <Empty title="A clear desk.">
            Begin a story with <CommandKey id="new.story" />, or drop a file from your recorder anywhere on this window.
          </Empty>
        )}
        {stories.length > 0 && (
          <table className="w-full border-collapse" data-testid="stories">
            <thead className="text-left text-[12px] text-faint">
              <tr>
                <th scope="col" className="pb-2 font-semibold">
                  Airs
                </th>
                <th scope="col" className="pb-2 font-semibold">
                  Story
                </th>
                <th scope="col" className="pb-2 text-right font-semibold">
                  Slot
                </th>
                <th scope="col" className="pb-2 text-right font-semibold">
                  TRT
                </th>
                <th scope="col" className="pb-2 pl-8 font-semibold max-[1180px]:pl-4">
                  Over/under
                </th>
                <th scope="col">
                  <span className="sr-only">More</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {byAirTime(stories).map(({ story, output }) => (
                <Row
                  key={`${story.id}/${output.id}`}
                  story={story}
                  output={output}
                  onOpen={() => void navigate(addressOf(story, output))}
                />
              ))}
            </tbody>
          </table>
        )}
        <SetAside rows={aside.map(({ id, slug }) => ({ id, name: slug }))} />
      </div>
      {making && <NewStory onClose={() => setMaking(false)} />}
    </Shell>
  )
}

/** Each output of each story, the next to air first; those without an air time in the order of their stories. */
const byAirTime = (stories: readonly StoryRow[]): { story: StoryRow; output: OutputRow }[] =>
  stories
    .flatMap((story) => story.outputs.map((output) => ({ story, output, at: output.airs ? Date.parse(output.airs) : Infinity })))
    .sort((a, b) => (a.at === b.at ? 0 : a.at - b.at))

/** A story opens as the output that was clicked. */
const addressOf = ({ id, outputs }: StoryRow, { id: output }: OutputRow): string =>
  output === outputs[0].id ? `/stories/${id}` : `/stories/${id}?output=${output}`

function Row({ story, output, onOpen }: { story: StoryRow; output: OutputRow; onOpen: () => void }) {
  const { airs, slot, trt, lacks } = output
  const over = trt - slot
  const until = untilAir(airs, useNow())
  const rename = async (slug: string) =>
    (await liveDocument(story.id, 'story')).act([{ type: 'set', id: 'story', key: 'slug', value: slug }], { label: 'slug' })
  const duplicate = useOnce(() => post(`/stories/${story.id}/duplicate`, {}))
  const [renaming, setRenaming] = useState(false)
  return (
    <tr className="border-t border-rule align-top last:border-b hover:bg-paper-lit">
      <td className="w-36 py-4 pr-4">
        <span className="block text-[17px] font-semibold">{airTime(airs) || 'no time'}</span>
        <span className="text-[13px] text-faint">{until}</span>
      </td>
      <td className="py-4 pr-6">
        {renaming ? (
          <span className="font-serif text-[20px]" onBlur={() => setRenaming(false)}>
            <EditableText label="Slug" value={story.slug} onKeep={(value) => orSay(rename(value))} />
          </span>
        ) : (
          <Link to={addressOf(story, output)} className="font-serif text-[20px] leading-tight font-medium hover:underline">
            {story.slug || 'Untitled'}
          </Link>
        )}
        {output.name && <span className="ml-2 text-[13px] text-faint">{output.name}</span>}
        <p className="mt-0.5 text-[13px] text-soft">{lacks.length ? `Needs ${sentence(lacks)}` : 'Ready'}</p>
      </td>
      <td className="py-4 text-right">{slot ? clock(slot) : '–'}</td>
      <td className="py-4 pl-5 text-right font-semibold">{clock(trt)}</td>
      <td className="w-52 py-4 pl-8 max-[1180px]:w-40 max-[1180px]:pl-4">
        {slot > 0 && (
          <>
            <span className={`font-semibold ${over > 0 ? 'text-cut-ink' : 'text-tape'}`}>
              {over === 0 ? 'on time' : `${over > 0 ? 'over' : 'under'} by ${clock(Math.abs(over))}`}
            </span>
            <span className="mt-1.5 block h-1.5 overflow-hidden rounded-full bg-rule" aria-hidden>
              <span
                className={`block h-full ${over > 0 ? 'bg-cut' : 'bg-ink'}`}
                style={{ width: `${Math.min(100, (trt / slot) * 100)}%` }}
              />
            </span>
          </>
        )}
      </td>
      <td className="py-3 pl-2 text-right">
        <Menu
          label={`More for ${story.slug}`}
          trigger={
            <Button look="bare" className="px-2">
              <MoreHorizontal size={16} />
            </Button>
          }
        >
          <MenuItem onSelect={onOpen}>Open</MenuItem>
          <MenuItem onSelect={() => setTimeout(() => setRenaming(true))}>Rename</MenuItem>
          <MenuItem onSelect={() => duplicate.run()}>Duplicate</MenuItem>
          <MenuItem onSelect={() => orSay(saveAsFile(story))}>Save as a story file</MenuItem>
          <MenuItem onSelect={() => orSay(patch(`/documents/${story.id}`, { aside: true }))}>Archive</MenuItem>
        </Menu>
      </td>
    </tr>
  )
}

const sentence = (list: readonly string[]): string =>
  list.length < 2 ? (list[0] ?? '') : `${list.slice(0, -1).join(', ')} and ${list.at(-1)}`

function NewStory({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate()
  const [airs, setAirs] = useState({ day: '', time: '' })
  const [wrong, setWrong] = useState<{ airs?: string; slot?: string; server?: string }>({})
  const make = async (form: FormData) => {
    const id = crypto.randomUUID()
    const typed = String(form.get('slot'))
    // without a figure it is the usual length of a package
    const slot = typed.trim() ? parseLength(typed) : toFrames(210)
    const air = typedAirTime(airs)
    if (slot === null || 'wrong' in air)
      return setWrong({
        ...('wrong' in air && { airs: air.wrong }),
        ...(slot === null && { slot: `${unread(typed, 'length')}. Type it as 3:30 or 210.` }),
      })
    const body = newStory(
      { slug: String(form.get('slug')).trim() || 'Untitled' },
      { id: crypto.randomUUID(), airs: air.airs, slot, client: String(form.get('client')).trim() },
    )
    try {
      await put(`/documents/${id}`, body)
      void navigate(`/stories/${id}`)
    } catch (problem) {
      setWrong({ server: (problem as Error).message })
    }
  }
  return (
    <Dialog open title="New story" onClose={onClose}>
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault()
          void make(new FormData(event.currentTarget))
        }}
      >
        <Field label="Slug" name="slug" autoFocus maxLength={200} placeholder="The night ferry" />
        <div className="grid grid-cols-[1.7fr_1fr] gap-4">
          <AirFields airs="" wrong={wrong.airs} onChange={setAirs} />
          <div>
            <Field label="Slot" name="slot" defaultValue="3:30" aria-invalid={Boolean(wrong.slot)} />
            {wrong.slot && (
              <p role="alert" className="mt-1 text-[13px] text-cut-ink">
                {wrong.slot}
              </p>
            )}
          </div>
        </div>
        <Field label="Programme" name="client" maxLength={200} placeholder="programme or station" />
        {wrong.server && (
          <p role="alert" className="text-cut-ink">
            {wrong.server}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button look="strong" type="submit">
            Create
          </Button>
        </div>
      </form>
    </Dialog>
  )
}
