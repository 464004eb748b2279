import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { toast } from 'sonner'
import { tapeQuery, useDesk } from '../api/queries'
import { useOnce } from '../api/useOnce'
import { keep } from '../documents/lastStory'
import { liveDocument } from '../documents/useDocument'
import { scriptSteps, textOf } from './script'
import { useStoryTapes } from '../library/useLibrary'
import { Button, Dialog } from '../ui/parts'
import { sendWords } from '../words/sendWords'
import { answered, useTexts } from './texts'

/** Asks of a text file that was dropped what it is: the transcript of a tape, or a script. */
export function TextDialog() {
  const [file] = useTexts(({ waiting }) => waiting)
  return file ? <WhatIsIt key={`${file.name}/${file.lastModified}`} file={file} /> : null
}

function WhatIsIt({ file }: { file: File }) {
  const navigate = useNavigate()
  const { pathname } = useLocation()
  const openTape = /^\/tapes\/([^/]+)$/.exec(pathname)?.[1] ?? ''
  const openName = useQuery({ ...tapeQuery(openTape), enabled: openTape !== '' }).data?.name
  const openStory = /^\/stories\/([^/]+)$/.exec(pathname)?.[1] ?? keep.story() ?? ''
  const desk = useDesk().data
  const [story, setStory] = useState(openStory)
  const ofStory = useStoryTapes(story)
  const recent = desk?.recent.filter(({ kind }) => kind === 'tape') ?? []
  const tapes = [...(openName ? [{ id: openTape, name: openName }] : []), ...ofStory, ...recent].filter(
    ({ id }, i, all) => all.findIndex((one) => one.id === id) === i,
  )
  const [tape, setTape] = useState(openTape)
  const chosenTape = tape || tapes[0]?.id || ''
  const plain = /\.(txt|docx)$/i.test(file.name)
  const done = () => answered(file)

  const asTranscript = useOnce(async () => {
    await sendWords(chosenTape, file)
    done()
    toast.success(`“${file.name}” is being laid on the tape.`, {
      action: { label: 'Open', onClick: () => void navigate(`/tapes/${chosenTape}`) },
    })
  })
  const asScript = useOnce(async () => {
    const live = await liveDocument(story, 'story')
    const { steps, count, found } = await scriptSteps(live.body, story, await textOf(file))
    if (!count) throw new Error(`“${file.name}” is empty.`)
    live.act(steps, { label: `import ${count === 1 ? 'a paragraph' : `${count} paragraphs`}` })
    done()
    toast.success(`${count === 1 ? 'One block' : `${count} blocks`} added${found ? `, ${found} with the piece that says it` : ''}.`, {
      action: { label: 'To the page', onClick: () => void navigate(`/stories/${story}`) },
    })
  })
  return (
    <Dialog open title={`What is “${file.name}”?`} onClose={done}>
      <div className="flex flex-col gap-5">
        <Choice
          title="The transcript of a tape"
          says="Each word is put where it is said."
          label="Tape"
          value={chosenTape}
          onChange={setTape}
          options={tapes.map(({ id, name }) => [id, name])}
          none="No tapes in this story and none opened lately. Open the tape first, then drop the file on it."
          action="Import as transcript"
          busy={asTranscript.busy}
          onAct={asTranscript.run}
        />
        {plain ? (
          <Choice
            title="A script"
            says="Each paragraph becomes a block at the end of the page: copy, or what somebody says on tape."
            label="Story"
            value={story}
            onChange={setStory}
            options={(desk?.stories ?? []).filter(({ aside }) => !aside).map(({ id, slug }) => [id, slug || 'Untitled'])}
            none="There is no story yet."
            action="Import as script"
            busy={asScript.busy}
            onAct={asScript.run}
          />
        ) : (
          <p className="text-[13px] text-faint">If it is a script, save it as .docx or .txt and drop that.</p>
        )}
        <div className="flex justify-end">
          <Button look="bare" onClick={done}>
            Cancel
          </Button>
        </div>
      </div>
    </Dialog>
  )
}

interface ChoiceProps {
  title: string
  says: string
  label: string
  value: string
  onChange: (value: string) => void
  options: readonly (readonly [id: string, name: string])[]
  none: string
  action: string
  busy: boolean
  onAct: () => void
}

function Choice({ title, says, label, value, onChange, options, none, action, busy, onAct }: ChoiceProps) {
  return (
    <section>
      <h3 className="font-semibold">{title}</h3>
      <p className="mb-2 text-[13px] text-soft">{options.length ? says : none}</p>
      {options.length > 0 && (
        <div className="flex flex-wrap items-center gap-2">
          <select
            aria-label={label}
            className="h-9 min-w-0 flex-1 rounded-md border border-rule bg-paper-lit px-2"
            value={value}
            onChange={(event) => onChange(event.target.value)}
          >
            {!options.some(([id]) => id === value) && <option value={value}>choose …</option>}
            {options.map(([id, name]) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
          <Button look="strong" disabled={busy || !value} onClick={onAct}>
            {action}
          </Button>
        </div>
      )}
    </section>
  )
}
