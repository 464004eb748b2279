import { useEffect, useRef, useState, type ReactNode, type RefObject } from 'react'
import { Link, useLocation } from 'react-router'
import { useSaving } from '../documents/useDocument'
import { useTheme } from '../ui/theme'
import { Button } from '../ui/parts'
import { AudioLines, HelpCircle, LayoutGrid, Mic, Moon, Newspaper, PanelRight, Redo2, Search, Send, Sun, Undo2 } from 'lucide-react'
import { unableTo, useAvailable } from '../commands/commands'
import { FavouriteStrip } from './FavouriteStrip'
import { CommandButton } from '../commands/CommandButton'

/**
 * What stands around every view: where one is above, what one works on in the middle, what plays below. In a narrow
 * window what stands above and below breaks into lines, and the side panel is opened by a button.
 */

export function Shell({
  path,
  right,
  children,
  foot,
  aside,
}: {
  path: ReactNode
  right?: ReactNode
  children: ReactNode
  foot?: ReactNode
  aside?: ReactNode
}) {
  const { theme } = useTheme()
  const [open, setOpen] = useState(false)
  const where = useRef<HTMLElement>(null)
  useHeading(where)
  return (
    <div className="flex h-full flex-col print:block print:h-auto">
      <header
        className={`flex min-h-[52px] shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule px-6 py-1.5
        max-[860px]:px-3 print:hidden`}
      >
        <Link to="/" className="shrink-0 font-serif text-[20px] font-bold tracking-tight" aria-label="Plain Cut, to the Desk">
          Plain<span className="mx-[3px] font-light text-cut">|</span>Cut
        </Link>
        <nav ref={where} tabIndex={-1} aria-label="Where you are" className="flex min-w-32 flex-1 items-center gap-2 text-soft">
          {path}
        </nav>
        <Undoing />
        <SaveState />
        {right}
        <div className="flex shrink-0 items-center gap-0.5">
          <CommandButton id="go.desk" look="bare" label="Stories">
            <Newspaper size={16} />
          </CommandButton>
          <CommandButton id="go.tapes" look="bare" label="Tapes">
            <AudioLines size={16} />
          </CommandButton>
          <CommandButton id="go.record" look="bare" label="Record">
            <Mic size={16} />
          </CommandButton>
          <CommandButton id="go.live" look="bare" label="Live clips">
            <LayoutGrid size={16} />
          </CommandButton>
          <CommandButton id="go.sendings" look="bare" label="Sendings">
            <Send size={16} />
          </CommandButton>
          <CommandButton id="help.commands" look="bare" label="Find a command">
            <Search size={16} />
          </CommandButton>
          <CommandButton id="help.keys" look="bare" label="Keyboard shortcuts">
            <HelpCircle size={16} />
          </CommandButton>
          <CommandButton id="view.night" look="bare" label="Dark theme / light theme">
            {theme === 'day' ? <Moon size={16} /> : <Sun size={16} />}
          </CommandButton>
          {aside && (
            <span className="hidden max-[860px]:inline-flex">
              <Button
                look={open ? 'strong' : 'bare'}
                aria-label="Side panel"
                aria-expanded={open}
                title="Side panel"
                onClick={() => setOpen(!open)}
              >
                <PanelRight size={16} />
              </Button>
            </span>
          )}
        </div>
      </header>
      <div className="flex min-h-0 flex-1 print:block">
        <main className={`flex min-h-0 min-w-0 flex-1 flex-col overflow-y-auto ${open ? 'max-[860px]:hidden' : ''}`}>{children}</main>
        {aside && <div className={`flex min-h-0 ${open ? 'max-[860px]:flex-1' : 'max-[860px]:hidden'}`}>{aside}</div>}
      </div>
      {foot && <FavouriteStrip />}
      {foot && (
        <footer
          className={`flex min-h-14 shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-t border-rule px-6 py-1.5
          max-[860px]:gap-x-3 max-[860px]:px-3 print:hidden`}
        >
          {foot}
        </footer>
      )}
    </div>
  )
}

/** The window is called what the view is, and who comes to a view by keyboard or with a screen reader begins at its heading. */
function useHeading(where: RefObject<HTMLElement | null>): void {
  const { pathname } = useLocation()
  useEffect(() => {
    const name = () =>
      [...(where.current?.children ?? [])]
        .map((part) => (part instanceof HTMLElement ? (part.querySelector('input')?.value ?? part.textContent ?? '') : ''))
        .filter((text) => text && text !== '/')
        .reverse()
    const tell = () => (document.title = [...new Set([...name(), 'Plain Cut'])].join(' – '))
    tell()
    const watch = new MutationObserver(tell)
    if (where.current) watch.observe(where.current, { childList: true, subtree: true, characterData: true })
    return () => watch.disconnect()
  }, [where, pathname])
  useEffect(() => {
    // whoever is about to type stays where they are
    if (document.activeElement && document.activeElement !== document.body) return
    const heading = document.querySelector<HTMLElement>('main h1') ?? where.current
    if (!heading) return
    heading.tabIndex = -1
    heading.style.outline = 'none'
    heading.focus({ preventScroll: true })
  }, [where, pathname])
}

export function Side({ children, label }: { children: ReactNode; label: string }) {
  return (
    <aside
      aria-label={label}
      className={`w-[292px] shrink-0 contain-strict overflow-y-auto border-l border-rule px-5 py-4 max-[1100px]:w-[248px] max-[860px]:w-full
        max-[860px]:shrink max-[860px]:border-l-0 print:hidden`}
    >
      {children}
    </aside>
  )
}

export function Crumb({ to, children }: { to?: string; children: ReactNode }) {
  return (
    <>
      <span className="shrink-0 text-grain" aria-hidden>
        /
      </span>
      {to ? (
        <Link to={to} className="max-w-56 min-w-8 truncate hover:text-ink hover:underline">
          {children}
        </Link>
      ) : (
        <span className="min-w-0 truncate font-semibold text-ink">{children}</span>
      )}
    </>
  )
}

export function Heading({ children }: { children: ReactNode }) {
  return <h2 className="mb-1 border-b border-rule pb-1.5 text-[12px] font-semibold text-faint">{children}</h2>
}

/** Undo and redo, where there is something that can be. */
function Undoing() {
  const available = useAvailable()
  useSaving()
  if (!available('edit.undo')) return null
  return (
    <span className="flex shrink-0 items-center">
      <CommandButton id="edit.undo" look="bare" label="Undo" disabled={unableTo('edit.undo') !== null}>
        <Undo2 size={16} />
      </CommandButton>
      <CommandButton id="edit.redo" look="bare" label="Redo" disabled={unableTo('edit.redo') !== null}>
        <Redo2 size={16} />
      </CommandButton>
    </span>
  )
}

function SaveState() {
  const { states } = useSaving()
  const all = Object.values(states)
  const waiting = all.includes('waiting')
  const saving = all.includes('saving')
  const text = waiting ? 'not saved yet' : saving ? 'saving' : 'saved'
  if (!all.length) return null
  return (
    <span
      role="status"
      data-testid="save-state"
      className={`flex shrink-0 items-center gap-1.5 text-[12px] ${waiting ? 'text-cut-ink' : 'text-faint'}`}
    >
      <span className={`size-1.5 rounded-full ${waiting ? 'bg-cut' : saving ? 'bg-grain' : 'bg-tape'}`} />
      {text}
    </span>
  )
}
