import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { StoryFileSearch } from '../../contract/storyFiles'
import { get, post } from '../api/client'
import { orSay } from '../api/orSay'
import { counted } from '../ui/counted'
import { Button, Dialog, Field } from '../ui/parts'

/** Looks for words in a folder of story files, without bringing any of them back; one that is wanted is brought back from there. */
export function SearchFolder({ onClose }: { onClose: () => void }) {
  const [folder, setFolder] = useState(String(localStorage.storyFolder ?? ''))
  const [words, setWords] = useState('')
  const [asked, setAsked] = useState<{ folder: string; words: string } | null>(null)
  const { data, error, isFetching } = useQuery({
    queryKey: ['storyFiles', asked],
    queryFn: () => get<StoryFileSearch>(`/keepings/search?${new URLSearchParams(asked!).toString()}`),
    enabled: asked !== null,
    retry: false,
    staleTime: 0,
  })
  const bring = async (path: string) => {
    await post('/keepings/backFrom', { path })
    onClose()
  }
  return (
    <Dialog wide open title="Search a folder of story files" onClose={onClose}>
      <form
        className="grid grid-cols-[1fr_1fr_auto] items-end gap-4 max-[700px]:grid-cols-1"
        onSubmit={(event) => {
          event.preventDefault()
          localStorage.storyFolder = folder
          setAsked({ folder: folder.trim(), words: words.trim() })
        }}
      >
        <Field
          label="Folder on this machine"
          value={folder}
          placeholder="/mnt/archive"
          onChange={(event) => setFolder(event.target.value)}
        />
        <Field label="Words that were said" value={words} onChange={(event) => setWords(event.target.value)} />
        <Button type="submit" look="strong" className="h-9" disabled={!folder.trim() || words.trim().length < 2 || isFetching}>
          Search
        </Button>
      </form>
      {error && (
        <p role="alert" className="mt-4 text-[13px] text-cut-ink">
          {error.message}
        </p>
      )}
      {data && (
        <p role="status" className="mt-4 text-[13px] text-soft">
          {counted(data.hits.length, 'place')} in {counted(data.files, 'story file')}
          {data.unread > 0 && `; ${data.unread} zip files there are none, or are damaged`}.
        </p>
      )}
      <ul className="mt-2" data-testid="story-hits">
        {data?.hits.map(({ path, slug, made, tape, text }, i) => (
          <li key={i} className="flex items-start gap-4 border-b border-rule py-2">
            <span className="min-w-0 flex-1">
              <span className="font-semibold">{slug || 'Untitled'}</span>
              <span className="text-[13px] text-faint">
                {' '}
                {made.slice(0, 10)}
                {tape && `, ${tape}`}
              </span>
              <span className="block text-[13px]">{text}</span>
            </span>
            <Button onClick={() => orSay(bring(path))}>Bring back</Button>
          </li>
        ))}
      </ul>
    </Dialog>
  )
}
