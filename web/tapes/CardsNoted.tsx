import { useEffect, useRef } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { toast } from 'sonner'
import { freshOf, useCards } from './Cards'

/** Says on other screens that a card with new recordings came in. */
export function CardsNoted() {
  const cards = useCards()
  const navigate = useNavigate()
  const { pathname } = useLocation()
  const noted = useRef<ReadonlySet<string>>(new Set())
  useEffect(() => {
    for (const card of cards) {
      const fresh = freshOf(card).length
      if (!fresh || noted.current.has(card.name) || pathname === '/tapes') continue
      toast(`Card ${card.name} is ready: ${fresh} new ${fresh === 1 ? 'recording' : 'recordings'}.`, {
        action: { label: 'Show', onClick: () => void navigate('/tapes') },
      })
    }
    noted.current = new Set(cards.map(({ name }) => name))
  }, [cards, pathname, navigate])
  return null
}
