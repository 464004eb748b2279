import { useState } from 'react'
import { clipLength, type Actuality, type EndFade } from '../../../core/edits/actuality'
import type { Cut } from '../../../core/edits/editList'
import { endFades, type CrossFade } from '../../../core/edits/fades'
import type { FadeShape } from '../../../core/sound/fade'
import { milliseconds, RATE, type Frames } from '../../../core/time'
import { Button, Choice, Dialog, Field } from '../../ui/parts'
import type { OwnFades } from '../../joins/ownFades'

interface Props {
  piece: Actuality
  /** The join that is worked on. */
  cut: Cut | null
  joins: number
  own: OwnFades
  onJoin: (fade: CrossFade) => void
  onAll: (fade: CrossFade) => void
  onEnd: (which: 'fadeIn' | 'fadeOut', fade: EndFade | null) => void
  onOwn: (fades: OwnFades) => void
  onClose: () => void
}

const SHAPES = [
  ['power', 'for unlike sound'],
  ['gain', 'for like sound'],
] as const
const END_SHAPES = [
  ['gain', 'even'],
  ['power', 'quick, then slow'],
] as const
const ms = (frames: Frames): string => String(Math.round((frames * 1000) / RATE))

/** Fades of one join, of all of them, and of both ends; and those that somebody wants by themselves. */
export function FadesDialog({ piece, cut, joins, own, onJoin, onAll, onEnd, onOwn, onClose }: Props) {
  const [length, setLength] = useState(ms(cut?.join.fade ?? milliseconds(8)))
  const [shape, setShape] = useState<FadeShape>(cut?.join.shape ?? 'power')
  const fade: CrossFade = { fade: milliseconds(Math.max(0, Number(length) || 0)), shape }
  const [mine, setMine] = useState(own)
  const keep = (fades: Partial<OwnFades>) => {
    const next = { ...mine, ...fades }
    setMine(next)
    onOwn(next)
  }
  return (
    <Dialog title="Fades" open onClose={onClose} wide>
      <section className="border-b border-rule pb-4">
        <h3 className="mb-2 text-[13px] font-semibold">Across joins</h3>
        <div className="flex flex-wrap items-end gap-4">
          <Field
            label="Length, ms"
            className="w-28"
            inputMode="numeric"
            value={length}
            onChange={(event) => setLength(event.target.value)}
          />
          <Choice label="Shape" value={shape} options={SHAPES} onChange={setShape} />
          <span className="flex-1" />
          <Button disabled={!cut} onClick={() => onJoin(fade)}>
            At this join
          </Button>
          <Button disabled={joins === 0} onClick={() => onAll(fade)}>
            At all {joins} joins
          </Button>
        </div>
        <p className="mt-2 flex items-center gap-2 text-[13px] text-soft">
          {mine.join
            ? `Your own for each new cut: ${ms(mine.join.fade)} ms, ${SHAPES.find(([value]) => value === mine.join!.shape)![1]}.`
            : 'For each new cut, length and shape are chosen for what meets there.'}
          <button type="button" className="text-tape hover:underline" onClick={() => keep({ join: mine.join ? null : fade })}>
            {mine.join ? 'have them chosen again' : 'always use these instead'}
          </button>
        </p>
      </section>
      <End
        title="Coming in"
        handle={piece.head}
        fade={endFades(piece).in}
        set={piece.fadeIn}
        most={clipLength(piece)}
        own={mine.fadeIn}
        onEnd={(value) => onEnd('fadeIn', value)}
        onOwn={(fadeIn) => keep({ fadeIn })}
      />
      <End
        title="Going out"
        handle={piece.tail}
        fade={endFades(piece).out}
        set={piece.fadeOut}
        most={clipLength(piece)}
        own={mine.fadeOut}
        onEnd={(value) => onEnd('fadeOut', value)}
        onOwn={(fadeOut) => keep({ fadeOut })}
      />
    </Dialog>
  )
}

function End({
  title,
  handle,
  fade,
  set,
  most,
  own,
  onEnd,
  onOwn,
}: {
  title: string
  handle: Frames
  fade: EndFade
  set: EndFade | undefined
  most: Frames
  own: EndFade | null
  onEnd: (fade: EndFade | null) => void
  onOwn: (fade: EndFade | null) => void
}) {
  const [length, setLength] = useState(ms(fade.length))
  const [shape, setShape] = useState<FadeShape>(fade.shape)
  const wanted: EndFade = { length: Math.min(most, milliseconds(Math.max(5, Number(length) || 0))), shape }
  return (
    <section className="border-b border-rule py-4 last:border-0 last:pb-0">
      <h3 className="mb-2 text-[13px] font-semibold">{title}</h3>
      <div className="flex flex-wrap items-end gap-4">
        <Field
          label={`Length, ms (handle ${ms(handle)})`}
          className="w-44"
          inputMode="numeric"
          value={length}
          onChange={(event) => setLength(event.target.value)}
        />
        <Choice label={`Shape, ${title.toLowerCase()}`} value={shape} options={END_SHAPES} onChange={setShape} />
        <span className="flex-1" />
        <Button disabled={!set} onClick={() => onEnd(null)}>
          As long as the handle
        </Button>
        <Button look="strong" onClick={() => onEnd(wanted)}>
          Set
        </Button>
      </div>
      <p className="mt-2 flex items-center gap-2 text-[13px] text-soft">
        {own ? `Your own for each new piece: ${ms(own.length)} ms.` : 'New pieces fade over their handles.'}
        <button type="button" className="text-tape hover:underline" onClick={() => onOwn(own ? null : wanted)}>
          {own ? 'over the handle again' : 'always use this instead'}
        </button>
      </p>
    </section>
  )
}
