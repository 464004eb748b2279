import { sameProgramme } from '../../contract/programmes'
import { USUAL_LOUDNESS } from '../../core/page/story'
import { useProgrammes } from '../send/queries'
import type { Board } from './useBoard'

/** Whether each clip is as loud as its piece, or all as loud as their programme wants it. */
export function BoardLevel({ board: { name, level, setLevel } }: { board: Board }) {
  const { data } = useProgrammes()
  const house = data?.find((one) => sameProgramme(one.name, name))?.format.loudness ?? USUAL_LOUDNESS
  return (
    <label className="flex items-center gap-2 text-[13px] text-soft">
      Levels
      <select
        className="h-9 rounded-md border border-rule bg-paper-lit px-2 text-[13px]"
        value={level === undefined ? '' : String(level)}
        onChange={({ target }) => {
          setLevel(target.value === '' ? undefined : Number(target.value))
          // the keys belong to the clips again
          target.blur()
        }}
      >
        <option value="">each as its piece</option>
        {[...new Set([house, ...(level === undefined ? [] : [level])])].map((value) => (
          <option key={value} value={value}>
            all at {String(value).replace('-', '−')} LUFS
          </option>
        ))}
      </select>
    </label>
  )
}
