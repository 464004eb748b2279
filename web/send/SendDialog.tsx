import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useState, type KeyboardEvent } from 'react'
import { FileText } from 'lucide-react'
import { sameProgramme, type Programme } from '../../contract/programmes'
import { PICTURE } from '../../contract/fileFormats'
import type { FigurePreview, Receipt, SendOrder, SendPreview, SendTarget } from '../../contract/sends'
import type { LaneOf } from '../../core/page/onlyLane'
import { USUAL_LOUDNESS, type Unrecorded } from '../../core/page/story'
import { askedOfLoudness } from '../../core/send/lastLook'
import { clock } from '../../core/time'
import { post, put } from '../api/client'
import { CommandKey } from '../commands/CommandButton'
import { commandsFor, keyOf } from '../commands/keys'
import { useMyName } from '../present/present'
import { Button, Choice, Dialog, Tip } from '../ui/parts'
import { DestinationChoice } from './DestinationChoice'
import { figuresInWords } from './figuresInWords'
import { FormatChoices } from './FormatChoices'
import { LastLook } from './LastLook'
import { PictureChoices } from './PictureChoices'
import { useDestinations, useProgrammes } from './queries'
import { Receipts } from './Receipts'
import { asSound, formatInWords, keepSettings, settingsOf, storedSettings, type Settings } from './settings'
import { WordFiles } from './WordFiles'

/**
 * Sends a page, a piece, a selection or a tape: what it will be and how loud, its progress, what was sent before.
 * Where something is selected, that it is only a part is said, and one click sends all of it.
 */

/** What can go beside the file. */
const SCRIPTS = { story: 'the script', actuality: 'its cue sheet', tape: '' }
const WHOLE = { story: 'the whole story', actuality: 'the whole actuality', tape: 'the whole tape' }

export function SendDialog({
  target: asked,
  title,
  programme,
  unrecorded,
  lanes = [],
  onClose,
}: {
  target: SendTarget
  title: string
  /** For whom it is made, where that is known. */
  programme?: string
  /** Of a story: how many blocks of copy have no voice track, and what becomes of them. */
  unrecorded?: { copy: number; value: Unrecorded; onChange: (value: Unrecorded) => void }
  /** Of a story: the lanes in which something sounds, each of which can be a file of its own. */
  lanes?: readonly { lane: LaneOf; name: string }[]
  onClose: () => void
}) {
  const programmes = useProgrammes()
  const house = programme ? programmes.data?.find(({ name }) => sameProgramme(name, programme)) : undefined
  /** What is chosen here, where it is otherwise than its programme has it. */
  const [own, setOwn] = useState<Settings | null>(null)
  const destinations = useDestinations().data
  const chosen = own ?? (house ? settingsOf(house.format) : storedSettings())
  const selected = asked.from !== undefined && asked.to !== undefined
  // blocks of a page are chosen in passing: of a story all goes out unless somebody says otherwise
  const [what, setWhat] = useState<'part' | 'all' | 'lanes'>(selected && asked.kind !== 'story' ? 'part' : 'all')
  // one that was removed since is chosen no longer
  const settings = {
    ...(what === 'lanes' ? asSound(chosen) : chosen),
    to: chosen.to.filter((id) => destinations?.some((one) => one.id === id)),
  }
  const part = what === 'part'
  const target: SendTarget = part ? asked : { ...asked, from: undefined, to: undefined }
  // a house format is changed by none by accident
  useEffect(() => void (house || !own || keepSettings(own)), [own, house])
  const asHouse = useMutation({
    mutationFn: (name: string) =>
      put<Programme>(`/programmes/${encodeURIComponent(name)}`, { ...settings, loudness: preview.data?.target ?? USUAL_LOUDNESS }),
    onSuccess: () => setOwn(null),
  })
  const by = useMyName(({ name }) => name) || undefined
  const picture = settings.format === PICTURE ? settings.picture : undefined
  const order: SendOrder = { what: target, ...settings, picture, unrecorded: unrecorded?.value, by }
  const preview = useQuery({
    queryKey: ['sends', 'preview', order],
    queryFn: () => post<SendPreview>('/sends/preview', order),
    // its form is that of its programme
    enabled: programmes.isSuccess && destinations !== undefined,
    retry: false,
  })
  const figures = useQuery({
    // how it is written does not change how loud it is, but for what coding adds: the receipt has that
    queryKey: ['sendFigures', target, settings.channels, unrecorded?.value],
    queryFn: ({ signal }) => post<FigurePreview>('/sends/figures', order, signal),
    enabled: preview.isSuccess,
    retry: false,
  })
  const send = useMutation({
    mutationFn: async () => {
      if (what !== 'lanes') return void (await post<Receipt>('/sends', order))
      for (const { lane } of lanes) await post<Receipt>('/sends', { ...order, what: { ...target, lane } })
    },
  })
  const partName = asked.kind === 'story' ? 'the chosen blocks' : 'the selection'
  const stereoSound = preview.data?.channels === 2
  /** The key that opened it sends it too, as soon as it can be sent. */
  const [soon, setSoon] = useState(false)
  const onKeyDown = (event: KeyboardEvent) => {
    const key = keyOf(event.nativeEvent)
    if (!key || event.repeat || !commandsFor(key).includes('page.send')) return
    event.preventDefault()
    setSoon(true)
  }
  useEffect(() => {
    if (!soon || !preview.data || send.isPending) return
    setSoon(false)
    send.mutate()
  }, [soon, preview.data, send])

  return (
    <Dialog wide open title={part ? `Send a selection of ${title}` : `Send ${title}`} onClose={onClose}>
      <div className="grid grid-cols-[1fr_19rem] gap-8 max-[800px]:grid-cols-1" onKeyDown={onKeyDown}>
        <div className="flex flex-col gap-4">
          {(selected || lanes.length > 1) && (
            <Choice
              label="What is sent"
              value={what}
              onChange={setWhat}
              options={[
                ...(selected ? [['part', `${partName}, ${clock(asked.to! - asked.from!)}`] as const] : []),
                ['all', WHOLE[asked.kind]] as const,
                ...(lanes.length > 1 ? [['lanes', `each lane as a file: ${lanes.length} files, equally long`] as const] : []),
              ]}
            />
          )}
          {house && !own ? (
            <div className="rounded-lg border border-rule bg-paper-lit px-4 py-3" data-testid="house-format">
              <p className="text-[12px] text-faint">As {house.name} wants it</p>
              <p className="mt-0.5 font-semibold">{formatInWords(settings)}</p>
              <Button look="bare" className="mt-1 -ml-3 text-tape" onClick={() => setOwn(settings)}>
                Another form, this time
              </Button>
            </div>
          ) : (
            <FormatChoices
              settings={settings}
              onChange={setOwn}
              pictures={what !== 'lanes'}
              script={what === 'lanes' ? '' : SCRIPTS[asked.kind]}
            >
              {picture && (
                <PictureChoices
                  picture={picture}
                  shown={{ title: preview.data?.title ?? title, from: preview.data?.from ?? '', wave: figures.data?.wave }}
                  onChange={(picture) => setOwn({ ...settings, picture })}
                />
              )}
            </FormatChoices>
          )}
          {house && own && (
            <Button className="self-start" onClick={() => setOwn(null)}>
              Back to the form of {house.name}
            </Button>
          )}
          {!house && programme && !picture && (
            <Button className="self-start" disabled={asHouse.isPending} onClick={() => asHouse.mutate(programme)}>
              Keep as the house format of {programme}
            </Button>
          )}
          <DestinationChoice to={settings.to} onChange={(to) => setOwn({ ...settings, to })} onLeave={onClose} />
          {stereoSound && settings.channels === 1 && (
            <p className="text-[13px] text-soft">Some of it is in stereo. A mono file sums both sides.</p>
          )}
          {unrecorded && unrecorded.copy > 0 && (
            <div>
              <Choice
                label={`Copy without a voice track: ${unrecorded.copy} ${unrecorded.copy === 1 ? 'block' : 'blocks'}`}
                value={unrecorded.value}
                onChange={unrecorded.onChange}
                options={[
                  ['out', 'left out of the file'],
                  ['tone', 'held as room tone'],
                ]}
              />
              <p className="mt-1 text-[13px] text-soft">
                {unrecorded.value === 'out'
                  ? 'The blocks around it follow each other.'
                  : 'Room tone runs for as long as the copy takes to read.'}
              </p>
            </div>
          )}
        </div>
        <div className="rounded-lg bg-paper-low p-4" data-testid="preview">
          <p className="text-[12px] text-faint">File</p>
          {preview.error ? (
            <p className="mt-1 text-cut-ink" role="alert">
              {preview.error.message}
            </p>
          ) : (
            <>
              <p className="text-[30px] leading-tight font-bold tracking-tight">{preview.data ? clock(preview.data.frames) : ' '}</p>
              <p className="text-[13px] text-soft">
                {preview.data ? `${preview.data.frames.toLocaleString('en')} samples, nothing before or after` : 'measuring …'}
              </p>
              <p className="text-[13px] text-soft" data-testid="loudness">
                {figures.data ? figuresInWords(figures.data) : figures.error ? figures.error.message : 'measuring the loudness …'}
              </p>
              <p className="mt-3 text-[13px] break-all">{preview.data?.fileName}</p>
            </>
          )}
          {preview.data && (
            <LastLook
              asked={[...(figures.data ? askedOfLoudness(figures.data, preview.data.target) : []), ...preview.data.look]}
              story={target.kind === 'story' ? target.id : null}
              onGo={onClose}
            />
          )}
          <div className="mt-4 flex flex-col gap-2">
            <Tip
              text={
                <>
                  Send <CommandKey id="page.send" />
                </>
              }
            >
              <Button look="strong" className="justify-center" disabled={!preview.data || send.isPending} onClick={() => send.mutate()}>
                Send
              </Button>
            </Tip>
            {target.kind === 'story' && (
              <a
                className="inline-flex items-center justify-center gap-1.5 rounded-md py-1 text-[13px] hover:underline"
                href={`/stories/${target.id}/script`}
                target="_blank"
                rel="noreferrer"
              >
                <FileText size={14} /> Print script
              </a>
            )}
          </div>
          {target.kind !== 'tape' && <WordFiles target={target} unrecorded={unrecorded?.value} />}
          {send.error && (
            <p role="alert" className="mt-2 text-[13px] text-cut-ink">
              {send.error.message}
            </p>
          )}
        </div>
      </div>
      <Receipts of={target} />
    </Dialog>
  )
}
