import { useEffect, useRef, useState, type ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import { useCommands } from '../commands/commands'
import { Button, Progress } from '../ui/parts'
import { TimeLeft } from '../ui/TimeLeft'
import { upload, useUploads } from './uploads'

/** Takes files that are dropped anywhere on the window, or chosen, and shows them on their way. */
export function DropAnywhere({ children }: { children: ReactNode }) {
  const navigate = useNavigate()
  const input = useRef<HTMLInputElement>(null)
  const [over, setOver] = useState(false)
  const { list } = useUploads()

  const take = (files: Iterable<File>) => {
    for (const file of files)
      void upload(file).then((id) => {
        if (id) toast.success(`“${file.name}” is in.`, { action: { label: 'Open', onClick: () => void navigate(`/tapes/${id}`) } })
      })
  }
  useCommands({ 'new.tape': () => input.current?.click() })

  useEffect(() => {
    const holdsFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files')
    const onOver = (event: DragEvent) => {
      if (!holdsFiles(event)) return
      event.preventDefault()
      setOver(true)
    }
    const onLeave = (event: DragEvent) => !event.relatedTarget && setOver(false)
    const onDrop = (event: DragEvent) => {
      if (!holdsFiles(event)) return
      event.preventDefault()
      setOver(false)
      take(event.dataTransfer!.files)
    }
    window.addEventListener('dragover', onOver)
    window.addEventListener('dragleave', onLeave)
    window.addEventListener('drop', onDrop)
    return () => {
      window.removeEventListener('dragover', onOver)
      window.removeEventListener('dragleave', onLeave)
      window.removeEventListener('drop', onDrop)
    }
  })

  return (
    <>
      {children}
      <input ref={input} type="file" multiple hidden aria-label="Choose sound files" data-testid="file-input" onChange={(event) => { take(event.target.files ?? []); event.target.value = '' }} />
      {over && (
        <div className="pointer-events-none fixed inset-3 z-50 flex items-center justify-center rounded-2xl border-2 border-dashed border-tape bg-paper/90">
          <p className="font-serif text-[28px]">Let go, and it is a tape.</p>
        </div>
      )}
      {list.length > 0 && (
        <section aria-label="On its way in" className="fixed right-6 bottom-20 z-30 flex w-80 flex-col gap-3 rounded-xl border border-rule bg-paper-lit p-4 shadow-xl">
          {list.map((one) => {
            const share = one.sent / Math.max(1, one.size)
            return (
              <div key={one.key} className="flex flex-col gap-1.5">
                <div className="flex items-center gap-2">
                  <span className="min-w-0 flex-1 truncate font-medium">{one.name}</span>
                  <Button look="bare" className="h-6 px-2" onClick={one.cancel}>Cancel</Button>
                </div>
                <Progress value={share} label={`Sending ${one.name}`} />
                <span className="text-[12px] text-faint">
                  {share >= 1 ? 'looking into it …' : <>{(one.sent / 1e6).toFixed(1)} of {(one.size / 1e6).toFixed(1)} MB, <TimeLeft progress={share} /></>}
                </span>
              </div>
            )
          })}
        </section>
      )}
    </>
  )
}
