import { useEffect, useRef, useState, type ReactNode } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { useCommands } from '../commands/commands'
import { TextDialog } from '../texts/TextDialog'
import { dropped } from './dropped'
import { bringIn, onOpen } from './uploads'

/** Takes files and folders that are dropped anywhere on the window, or chosen. */
export function DropAnywhere({ children }: { children: ReactNode }) {
  const navigate = useNavigate()
  const input = useRef<HTMLInputElement>(null)
  const [over, setOver] = useState(false)
  // what is dropped on a story's page joins the story
  const story = /^\/stories\/([^/]+)$/.exec(useLocation().pathname)?.[1]
  useEffect(() => onOpen((tape) => void navigate(`/tapes/${tape}`)), [navigate])
  useCommands({ 'new.tape': () => input.current?.click() })

  useEffect(() => {
    const holdsFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files')
    const onOver = (event: DragEvent) => {
      // a part of the page may take it for itself
      if (!holdsFiles(event) || event.defaultPrevented) return setOver(false)
      event.preventDefault()
      setOver(true)
    }
    const onLeave = (event: DragEvent) => !event.relatedTarget && setOver(false)
    const onDrop = (event: DragEvent) => {
      setOver(false)
      if (!holdsFiles(event) || event.defaultPrevented) return
      event.preventDefault()
      void dropped(event.dataTransfer!).then((files) => bringIn(files, { story }))
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
      <input
        ref={input}
        type="file"
        multiple
        hidden
        aria-label="Choose sound files"
        data-testid="file-input"
        onChange={(event) => {
          bringIn(event.target.files ?? [], { story })
          event.target.value = ''
        }}
      />
      {over && (
        <div
          className={`pointer-events-none fixed inset-3 z-50 flex items-center justify-center rounded-2xl border-2
          border-dashed border-tape bg-paper/90`}
        >
          <p className="font-serif text-[28px]">{story ? 'Drop to import into this story.' : 'Drop to import.'}</p>
        </div>
      )}
      <TextDialog />
    </>
  )
}
