import { useState } from 'react'
import { AirFields } from '../story/AirFields'
import { airClock, airDay, airTime, typedAirTime, untilAir } from '../story/airTime'
import { Button, Dialog } from '../ui/parts'
import { useNow } from '../ui/useNow'

/** When a story airs, and how long it is until then; a press changes it. */
export function AirTime({ airs, onKeep }: { airs: string; onKeep: (airs: string) => void }) {
  const [editing, setEditing] = useState(false)
  const until = untilAir(airs, useNow())
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
        <Dialog open title="Air time" onClose={() => setEditing(false)}>
          <AirTimeForm
            airs={airs}
            onKeep={(now) => {
              onKeep(now)
              setEditing(false)
            }}
          />
        </Dialog>
      )}
    </>
  )
}

function AirTimeForm({ airs, onKeep }: { airs: string; onKeep: (airs: string) => void }) {
  const [typed, setTyped] = useState({ day: airDay(airs), time: airClock(airs) })
  const [wrong, setWrong] = useState('')
  const set = () => {
    const air = typedAirTime(typed)
    if ('wrong' in air) setWrong(air.wrong)
    else onKeep(air.airs)
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
      <div className="flex justify-end">
        <Button type="submit" look="strong">
          Set
        </Button>
      </div>
    </form>
  )
}
