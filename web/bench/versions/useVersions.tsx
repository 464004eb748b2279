import { useState, type ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import { dropVersion, goBackTo, keepVersion, renameVersion, versionsOf, type Version } from '../../../core/edits/versions'
import { put } from '../../api/client'
import { useOnce } from '../../api/useOnce'
import type { Bench } from '../bench'
import { VersionsList, VersionWords } from './VersionsList'

/** Keeping versions, going back to them, and trying something on a copy. `onAgainst`: another one is compared with. */
export function useVersions(
  { live, piece, wordsOf, setChosen, act }: Bench,
  against: Version | null,
  onAgainst: (id: string | null) => void,
): { list: ReactNode; words: ReactNode; keep: () => void; duplicate: () => void } {
  const navigate = useNavigate()
  const [inWords, setInWords] = useState<Version | null>(null)
  const now = () => live.body
  const versions = versionsOf(piece)
  const keep = () => {
    const name = `version ${versions.length + 1}`
    act(keepVersion(now(), { id: crypto.randomUUID(), name, at: new Date().toISOString() }), 'keep a version')
    toast(`Saved as “${name}”.`, { duration: 2000 })
  }
  const duplicate = useOnce(async () => {
    const made = crypto.randomUUID()
    const { kept, ...body } = now()
    const offcuts = Object.entries(kept ?? {}).filter(([, { kind }]) => kind === 'offcut')
    await put(`/documents/${made}`, {
      ...body,
      ...(offcuts.length ? { kept: Object.fromEntries(offcuts) } : {}),
      slug: `${piece.slug || 'Untitled'}, again`,
    })
    void navigate(`/pieces/${made}`)
    toast.success('This is the duplicate.')
  })
  const list = (
    <VersionsList
      versions={versions}
      against={against}
      onAgainst={(version) => onAgainst(version?.id ?? null)}
      onRename={(version, name) => act(renameVersion(version, name), 'name a version')}
      onBack={(version) => {
        act(goBackTo(now(), version), `back to ${version.name}`)
        setChosen(null)
      }}
      onDrop={(version) => act(dropVersion(version), 'remove a version')}
      onWords={setInWords}
    />
  )
  const words = inWords && <VersionWords version={inWords} now={piece.spans} wordsOf={wordsOf} onClose={() => setInWords(null)} />
  return { list, words, keep, duplicate: duplicate.run }
}
