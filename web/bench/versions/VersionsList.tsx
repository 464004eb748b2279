import { format, parseISO } from 'date-fns'
import { listLength, type EditList } from '../../../core/edits/editList'
import type { WordsOf } from '../../../core/edits/pieceWords'
import { comparedWords, type ComparedWord, type Version } from '../../../core/edits/versions'
import { tradeLength } from '../../../core/time'
import { EditableText } from '../../ui/EditableText'
import { Dialog } from '../../ui/parts'
import { Heading } from '../../shell/Shell'

interface Props {
  versions: readonly Version[]
  /** The one that the piece is compared with. */
  against: Version | null
  onAgainst: (version: Version | null) => void
  onBack: (version: Version) => void
  onDrop: (version: Version) => void
  onWords: (version: Version) => void
  onRename: (version: Version, name: string) => void
}

/** The versions that were kept: to compare with, and to go back to. */
export function VersionsList({ versions, against, onAgainst, onBack, onDrop, onWords, onRename }: Props) {
  if (!versions.length) return null
  const act = 'shrink-0 text-[12px] text-tape hover:underline'
  return (
    <>
      <div className="h-5" />
      <Heading>Versions</Heading>
      <ul data-testid="versions">
        {versions.map((version) => (
          <li key={version.id} className="border-b border-rule py-1.5">
            <div className="flex items-baseline gap-2">
              <span className="min-w-0 flex-1">
                <EditableText
                  label="Name of the version"
                  value={version.name}
                  placeholder="unnamed"
                  onKeep={(name) => onRename(version, name)}
                />
              </span>
              <span className="shrink-0 text-[12px] text-faint">{format(parseISO(version.at), 'HH:mm')}</span>
              <span className="w-9 shrink-0 text-right text-[13px] text-faint">{tradeLength(listLength(version.spans))}</span>
            </div>
            <div className="flex items-center gap-3">
              <button
                type="button"
                aria-pressed={version === against}
                className={`${act} ${version === against ? 'font-semibold' : ''}`}
                onClick={() => onAgainst(version === against ? null : version)}
              >
                {version === against ? 'compared' : 'compare'}
              </button>
              <button type="button" className={act} onClick={() => onWords(version)}>
                words
              </button>
              <button type="button" className={act} onClick={() => onBack(version)}>
                restore
              </button>
              <span className="flex-1" />
              <button
                type="button"
                className="shrink-0 text-[12px] text-faint hover:text-ink hover:underline"
                onClick={() => onDrop(version)}
              >
                remove
              </button>
            </div>
          </li>
        ))}
      </ul>
    </>
  )
}

/** Two versions as words, side by side: what only the one says is marked. */
export function VersionWords({
  version,
  now,
  wordsOf,
  onClose,
}: {
  version: Version
  now: EditList
  wordsOf: WordsOf
  onClose: () => void
}) {
  const [own, other] = comparedWords(now, version.spans, wordsOf)
  return (
    <Dialog title={`Now, and “${version.name}”`} open onClose={onClose} wide>
      <div className="grid grid-cols-2 gap-6">
        <Said title={`Now, ${tradeLength(listLength(now))}`} words={own} />
        <Said title={`${version.name}, ${tradeLength(listLength(version.spans))}`} words={other} />
      </div>
    </Dialog>
  )
}

function Said({ title, words }: { title: string; words: readonly ComparedWord[] }) {
  return (
    <div>
      <h3 className="mb-1 text-[12px] font-semibold text-faint">{title}</h3>
      <p className="max-h-[50vh] overflow-y-auto font-serif text-[16px] leading-relaxed">
        {words.map((word, i) => (
          <span key={i}>{word.only ? <mark className="rounded-sm bg-cut/15 px-0.5 text-ink">{word.text}</mark> : word.text} </span>
        ))}
      </p>
    </div>
  )
}
