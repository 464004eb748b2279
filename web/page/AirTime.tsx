import { useState } from 'react'
import type { Output, StoryStep } from '../../core/page/story'
import { useProgrammes } from '../send/queries'
import { AirFields } from '../story/AirFields'
import { airClock, airDay, airTime, typedAirTime, untilAir } from '../story/airTime'
import { Button, Dialog, Field } from '../ui/parts'
import { useNow } from '../ui/useNow'

type Airing = Pick<Output, 'airs' | 'client'>

/** When a story airs, and how long it is until then; a press changes it, and for which programme it is. */
export function AirTime({ output, act }: { output: Output; act: (steps: StoryStep[], label: string) => void }) {
  const [editing, setEditing] = useState(false)
  const { id, airs } = output
  const until = untilAir(airs, useNow())
  const keep = (airing: Airing) => {
    const steps = (['airs', 'client'] as const).flatMap((key): StoryStep[] =>
      airing[key] === output[key] ? [] : [{ type: 'set', id, key, value: airing[key] }],
    )
    if (steps.length) act(steps, airing.airs === airs ? 'programme' : 'air time')
    setEditing(false)
  }
  return (
    <>
      <button
        type="button"
        className="shrink-0 rounded px-1 text-[13px] text-soft hover:text-ink hover:underline"
        onClick={() => setEditing(true)}
      >
        {airs ? `Airs ${airTime(airs)}${until ? `, ${until}` : ''}` : 'Set the air time'}
      </button>
      {editing && (
        <Dialog open title="Air time and programme" onClose={() => setEditing(false)}>
          <AirTimeForm airs={airs} client={output.client} onKeep={keep} />
        </Dialog>
      )}
    </>
  )
}

function AirTimeForm({ airs, client, onKeep }: Airing & { onKeep: (airing: Airing) => void }) {
  const [programme, setProgramme] = useState(client)
  const { data: programmes } = useProgrammes()
  const [typed, setTyped] = useState({ day: airDay(airs), time: airClock(airs) })
  const [wrong, setWrong] = useState('')
  const set = () => {
    const air = typedAirTime(typed)
    if ('wrong' in air) setWrong(air.wrong)
    else onKeep({ airs: air.airs, client: programme.trim() })
  }
  return (
    <form
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        set()
      }}
    >
      <AirFields airs={airs} wrong={wrong} onChange={setTyped} />
      <Field
        label="Programme"
        value={programme}
        maxLength={200}
        list="programmes"
        placeholder="programme or station"
        onChange={(event) => setProgramme(event.target.value)}
      />
      <datalist id="programmes">
        {programmes?.map(({ name }) => (
          <option key={name} value={name} />
        ))}
      </datalist>
      <div className="flex justify-end">
        <Button type="submit" look="strong">
          Set
        </Button>
      </div>
    </form>
  )
}
