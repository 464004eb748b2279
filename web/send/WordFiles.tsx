import type { SendTarget } from '../../contract/sends'
import type { Unrecorded } from '../../core/page/story'

const KINDS = [
  ['txt', 'text'],
  ['srt', 'SRT'],
  ['vtt', 'WebVTT'],
] as const

/** What is said in the file, as text and as subtitles that are timed to it; and its edit list, for another workshop. */
export function WordFiles({ target: { kind, id, output }, unrecorded }: { target: SendTarget; unrecorded?: Unrecorded }) {
  const query = (as: string) => {
    const all = { as, kind, id, output, unrecorded }
    return new URLSearchParams(Object.entries(all).flatMap(([key, value]) => (value ? [[key, value]] : [])))
  }
  return (
    <p className="mt-2 text-center text-[13px] text-soft">
      Words:{' '}
      {KINDS.map(([as, name], i) => (
        <span key={as}>
          {i > 0 && ' · '}
          <a className="text-tape hover:underline" href={`/api/sends/words?${query(as)}`} download>
            {name}
          </a>
        </span>
      ))}
      {kind === 'actuality' && (
        <>
          <br />
          <a className="text-tape hover:underline" href={`/api/sends/script?${new URLSearchParams({ kind, id })}`} download>
            Cue sheet
          </a>
        </>
      )}
      <br />
      Edit list:{' '}
      <a className="text-tape hover:underline" href={`/api/sends/words?${query('otio')}`} download>
        OpenTimelineIO
      </a>
      {' · '}
      <a className="text-tape hover:underline" href={`/api/sends/words?${query('zip')}`} download>
        with its sound, and as AES31
      </a>
    </p>
  )
}
