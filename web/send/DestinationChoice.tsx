import { Link } from 'react-router'
import { useDestinations } from './queries'

/** Where it goes: any number of destinations. Without one the file is made and kept here. */
export function DestinationChoice({
  to,
  onChange,
  onLeave,
}: {
  to: readonly string[]
  onChange: (to: string[]) => void
  onLeave?: () => void
}) {
  const { data } = useDestinations()
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="mb-1 text-[12px] text-faint">To</legend>
      <div className="flex flex-wrap items-center gap-1">
        {data?.map(({ id, name }) => {
          const chosen = to.includes(id)
          return (
            <label
              key={id}
              className={`cursor-pointer rounded-md border px-2.5 py-1.5 text-[13px] has-focus-visible:outline-2
                has-focus-visible:outline-tape
                ${chosen ? 'border-ink bg-ink text-paper' : 'border-rule bg-paper-lit hover:border-grain'}`}
            >
              <input
                type="checkbox"
                className="sr-only"
                checked={chosen}
                onChange={() => onChange(chosen ? to.filter((one) => one !== id) : [...to, id])}
              />
              {name}
            </label>
          )
        })}
        {onLeave && (
          <Link to="/sendings" onClick={onLeave} className="px-2 py-1.5 text-[13px] text-tape hover:underline">
            {data?.length ? 'Destinations' : 'Set up a destination'}
          </Link>
        )}
      </div>
      {to.length === 0 && <p className="text-[13px] text-soft">The file is made and kept here, to be saved from its receipt.</p>}
    </fieldset>
  )
}
