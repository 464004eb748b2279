import type { Change, Rank } from '../../../core/fit/change'
import { BLOCK_KINDS } from '../../../core/page/story'
import { clock, RATE } from '../../../core/time'
import { CommandButton, CommandKey } from '../../commands/CommandButton'
import { Heading, Side } from '../../shell/Shell'
import { BLOCK_NAMES } from '../../../core/page/blockNames'
import type { usePage } from '../laid/usePage'
import type { FitPlan } from './useFit'

/** Why what a rank takes does little harm, or how much. */
const REASONS: Record<Rank, string> = {
  room: 'room between words of your own',
  ownFillers: 'in your own line',
  overlap: 'handles lie over each other',
  sound: 'sound that stands by itself',
  pace: 'within what a reader does',
  saidTwice: 'said twice',
  sentence: 'a sentence of theirs, whole',
  fillers: 'theirs',
  pauses: 'their own pauses, shortened',
}

const seconds = (change: Change) => `${(Math.abs(change.saves) / RATE).toFixed(1)} s`

interface Props {
  fit: FitPlan
  page: ReturnType<typeof usePage>
}

/** What would bring the page to its slot, the least harm first: each change with its seconds, heard both ways, ticked or not. */
export function FitPanel({ fit, page }: Props) {
  const { spine, known } = page
  const { slot } = page.output
  const { listed, left, plan, runs, chosen, over } = fit
  const live = page.air.placed.reduce((sum, { block, words }) => sum + (BLOCK_KINDS[block.kind].live ? words : 0), 0)
  const rest = Math.max(0, page.air.length - live - page.file.length)
  const where = (change: Change) => {
    const block = spine.find(({ id }) => id === change.block)
    return block ? (block.piece && known.get(block.piece)?.slug) || BLOCK_NAMES[block.kind] : ''
  }
  return (
    <Side label="Fit to slot">
      <div className="flex items-baseline justify-between">
        <Heading>
          {over > 0 ? 'Lose' : 'Find'} {clock(Math.abs(over))}, least harm first
        </Heading>
        <button type="button" className="text-[12px] text-tape hover:underline" onClick={fit.close}>
          close <CommandKey id="select.clear" />
        </button>
      </div>
      <p className="pt-2 text-[13px] text-soft" data-testid="fit-sum">
        On air {clock(page.air.length)} of {clock(slot)}: live {clock(live)}
        {rest > 0 && `, not recorded ${clock(rest)}`}, file {clock(page.file.length)}.
      </p>
      {!listed.length && <p className="py-3 text-soft">Nothing on this page can be changed without more harm than that.</p>}
      <ul data-testid="fit-changes" className="pt-1">
        {listed.map((change) => (
          <li
            key={change.id}
            className={`-mx-2 flex items-start gap-2.5 border-b border-rule px-2 py-2 ${chosen?.id === change.id ? 'bg-wash' : ''}`}
          >
            <input
              type="checkbox"
              className="mt-1 accent-[var(--ink)]"
              aria-label={`${where(change)}: ${change.what}`}
              checked={!left.has(change.id)}
              onChange={() => fit.toggle(change)}
            />
            <button type="button" className="min-w-0 flex-1 text-left text-[14px] leading-snug" onClick={() => fit.choose(change)}>
              <span className="font-medium">{where(change)}:</span> {change.what}
              <span className="block text-[12px] text-faint">{REASONS[change.rank]}</span>
            </button>
            <span className={`whitespace-nowrap ${left.has(change.id) ? 'text-faint' : ''}`}>{seconds(change)}</span>
          </li>
        ))}
      </ul>
      <p className="flex items-baseline justify-between border-t-2 border-ink py-2.5 font-semibold" data-testid="fit-runs">
        <span>Then it runs</span>
        <span className={plan.missing ? 'text-cut-ink' : ''}>{clock(runs)}</span>
      </p>
      {plan.missing > 0 && (
        <p className="pb-3 text-[13px] text-cut-ink" data-testid="fit-missing">
          {clock(slot)} is out of reach without more harm: {clock(plan.missing)} {over > 0 ? 'over' : 'short'}.
        </p>
      )}
      {plan.tooMuch > 0 && (
        <p className="pb-3 text-[13px] text-soft">{(plan.tooMuch / RATE).toFixed(1)} s of room goes between the blocks.</p>
      )}
      <div className="flex flex-wrap gap-1.5">
        <CommandButton id="page.fit" look="strong" disabled={!plan.changes.length}>
          Apply
        </CommandButton>
        <CommandButton id="play.across" disabled={!chosen}>
          With it
        </CommandButton>
        <CommandButton id="play.before" disabled={!chosen}>
          As it is
        </CommandButton>
      </div>
      <p className="pt-2 text-[12px] text-faint">
        <CommandKey id="join.previous" /> <CommandKey id="join.next" /> go from change to change. Nothing changes until you apply the plan.
        Pieces stay as they are: what is shortened is a piece of its own.
      </p>
    </Side>
  )
}
