import { Star } from 'lucide-react'
import { setSpeed, useSpeedNow } from '../sound/useSpeed'
import { Button } from '../ui/parts'
import { unableTo, useActedOn, useAvailable } from '../commands/commands'
import { useFavourites } from '../commands/favourites'
import { CommandButton } from '../commands/CommandButton'

/** The favourite commands that this screen has, and the favourite speeds where something plays. */
export function FavouriteStrip() {
  const { commands, speeds } = useFavourites()
  const available = useAvailable()
  const now = useSpeedNow()
  useActedOn()
  const here = commands.filter(available)
  const ofSpeed = available('play.toggle') ? speeds : []
  if (!here.length && !ofSpeed.length) return null
  return (
    <div
      role="toolbar"
      aria-label="Favourites"
      className="flex shrink-0 flex-wrap items-center gap-1 border-t border-rule px-6 py-1 text-[13px] max-[860px]:px-3 print:hidden"
    >
      {here.map((id) => (
        <CommandButton key={id} id={id} look="bare" disabled={unableTo(id) !== null} />
      ))}
      {here.length > 0 && ofSpeed.length > 0 && <span className="mx-2 h-4 border-l border-rule" aria-hidden />}
      {ofSpeed.map((speed) => (
        <Button
          key={speed}
          look="bare"
          aria-pressed={now === speed}
          className={`tabular-nums ${now === speed ? 'font-semibold text-tape' : ''}`}
          onClick={() => setSpeed(speed)}
        >
          {speed}×
        </Button>
      ))}
      <span className="flex-1" />
      <CommandButton id="help.favourites" look="bare" label="Choose favourites">
        <Star size={14} />
      </CommandButton>
    </div>
  )
}
