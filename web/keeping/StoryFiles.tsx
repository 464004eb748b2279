import { useQuery } from '@tanstack/react-query'
import { CalendarClock, Download, Search, Upload, X } from 'lucide-react'
import { useRef, useState } from 'react'
import { Link } from 'react-router'
import { toast } from 'sonner'
import type { StoryRow } from '../../contract/desk'
import type { KeepingInfo } from '../../contract/storyFiles'
import { get, post, remove } from '../api/client'
import { orSay } from '../api/orSay'
import { Heading } from '../shell/Shell'
import { Button, Progress } from '../ui/parts'
import { TimeLeft } from '../ui/TimeLeft'
import { GoingNote, KeepRulesDialog } from './KeepRulesDialog'
import { SearchFolder } from './SearchFolder'
import { sendStoryFile } from './sendStoryFile'

/** A whole story goes into one file, in the background. */
export async function saveAsFile({ id, slug }: StoryRow): Promise<void> {
  await post(`/keepings/out/${id}`, {})
  toast(`“${slug || 'Untitled'}” is being put into a file: you find it beside the stories.`)
}

/** Story files: those that were made here, those that are brought back, and how far each is. */
export function StoryFiles() {
  const { data } = useQuery({ queryKey: ['keepings'], queryFn: () => get<KeepingInfo[]>('/keepings') })
  const input = useRef<HTMLInputElement>(null)
  const [coming, setComing] = useState<{ name: string; share: number; stop: () => void } | null>(null)
  const [ruling, setRuling] = useState(false)
  const [searching, setSearching] = useState(false)
  const take = async (file: File) => {
    const off = new AbortController()
    const show = (share: number) => setComing({ name: file.name, share, stop: () => off.abort() })
    show(0)
    try {
      await sendStoryFile(file, show, off.signal)
    } catch (error) {
      if (!off.signal.aborted) toast.error((error as Error).message)
    } finally {
      setComing(null)
    }
  }
  return (
    <section aria-label="Story files" className="mt-8">
      <Heading>Story files</Heading>
      <p className="py-2 text-soft">A whole story in one file, with its tapes, to be kept or to go on elsewhere.</p>
      <input
        ref={input}
        type="file"
        accept=".zip"
        className="hidden"
        aria-label="Story file"
        onChange={({ currentTarget }) => {
          const [file] = currentTarget.files ?? []
          currentTarget.value = ''
          if (file) void take(file)
        }}
      />
      <Button onClick={() => input.current?.click()} disabled={coming !== null}>
        <Upload size={14} /> Bring back a story file
      </Button>
      <Button className="mt-2" onClick={() => setSearching(true)}>
        <Search size={14} /> Search a folder of them
      </Button>
      <Button className="mt-2" onClick={() => setRuling(true)}>
        <CalendarClock size={14} /> What is kept how long
      </Button>
      <GoingNote onLook={() => setRuling(true)} />
      {ruling && <KeepRulesDialog onClose={() => setRuling(false)} />}
      {searching && <SearchFolder onClose={() => setSearching(false)} />}
      <ul className="mt-3" data-testid="story-files">
        {coming && (
          <li className="border-b border-rule py-2 text-[13px]">
            <Line name={coming.name} progress={coming.share} onStop={coming.stop} />
          </li>
        )}
        {data
          ?.filter(({ state }) => state !== 'cancelled')
          .slice(0, 8)
          .map((one) => (
            <li key={one.id} className="border-b border-rule py-2 text-[13px]">
              <Keeping one={one} />
            </li>
          ))}
      </ul>
    </section>
  )
}

function Keeping({ one }: { one: KeepingInfo }) {
  const { id, kind, state, name, story, progress, bytes, error } = one
  if (state === 'waiting' || state === 'working')
    return <Line name={name} progress={progress} onStop={() => orSay(remove(`/keepings/${id}`))} />
  if (state === 'failed')
    return (
      <>
        <p className="truncate font-medium">{name}</p>
        <p className="text-cut-ink">{error}</p>
      </>
    )
  return (
    <p className="flex items-baseline gap-2">
      <span className="min-w-0 flex-1 truncate font-medium">{name || 'Untitled'}</span>
      {kind === 'out' ? (
        <a className="inline-flex items-center gap-1 text-tape hover:underline" href={`/api/keepings/${id}/file`} download>
          <Download size={14} /> Save, {megabytes(bytes)}
        </a>
      ) : (
        <Link className="text-tape hover:underline" to={`/stories/${story}`}>
          It is back
        </Link>
      )}
    </p>
  )
}

const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(bytes < 1e8 ? 1 : 0)} MB`

function Line({ name, progress, onStop }: { name: string; progress: number; onStop: () => void }) {
  return (
    <>
      <p className="flex items-center gap-2">
        <span className="min-w-0 flex-1 truncate font-medium">{name || 'Untitled'}</span>
        <Button look="bare" className="h-6 px-1" aria-label={`Cancel ${name}`} onClick={onStop}>
          <X size={14} />
        </Button>
      </p>
      <Progress value={progress} label={`Story file ${name}`} />
      <p className="text-faint">
        <TimeLeft progress={progress} />
      </p>
    </>
  )
}
