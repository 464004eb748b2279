import type { FinderName } from '../../core/tidy/finder'

export interface FinderKind {
  title: string
  one: string
  /** Why what is found may go. */
  reason: string
  /** What its setting says, before the figure. */
  turns?: string
  /** What applying does to one. */
  does: string
}

/** What finders are called, why what they find may go, and what their settings say. */
export const FINDER_KINDS: Record<FinderName, FinderKind> = {
  pauses: {
    title: 'Pauses',
    one: 'pause',
    reason: 'Longer than this speaker’s own. Each goes to one of the lengths that they leave themselves.',
    turns: 'Pauses longer than',
    does: 'shorten',
  },
  deadAir: {
    title: 'Dead air',
    one: 'stretch of dead air',
    reason: 'Nothing said for long, and what comes before the first sentence and after the last. Half a second stays.',
    turns: 'Nothing said for',
    does: 'take out',
  },
  fillers: {
    title: 'Fillers',
    one: 'filler',
    reason: 'Um, uh, er, and phrases such as “you know” where they stand alone. The longer pause beside it stays.',
    does: 'take out',
  },
  stumbles: {
    title: 'Stumbles',
    one: 'stumble',
    reason: 'Words said twice over, and beginnings given up. The last complete one stays.',
    does: 'take out',
  },
  retakes: {
    title: 'Retakes',
    one: 'retake',
    reason: 'Sentences said again, at once or minutes later. The last complete take stays.',
    does: 'take out',
  },
  breaths: {
    title: 'Breaths',
    one: 'breath',
    reason: 'Louder than this speaker’s usual breath. Down by 9 dB, never out.',
    turns: 'Louder than usual by',
    does: 'turn down',
  },
  clicks: {
    title: 'Clicks',
    one: 'click',
    reason: 'Lips, tongue, digital ticks. A few milliseconds are bridged from both sides.',
    turns: 'Above the voice by',
    does: 'repair',
  },
  pops: {
    title: 'Pops and bumps',
    one: 'pop',
    reason: 'A p or b into the microphone, a knock on the table. Only the low end goes, only there.',
    turns: 'Above the voice’s low end by',
    does: 'repair',
  },
  loud: {
    title: 'Loud spots',
    one: 'loud spot',
    reason: 'A laugh, a shout, a cough, far above the speaker. Turned down; a cough in a pause goes, and its time is held.',
    turns: 'Above the speaker by',
    does: 'turn down',
  },
  soft: {
    title: 'Soft phrases',
    one: 'soft phrase',
    reason: 'Well below what the same speaker says before and after. Turned up.',
    turns: 'Below its neighbours by',
    does: 'turn up',
  },
  offMic: {
    title: 'Off-mic voices',
    one: 'off-mic voice',
    reason: 'Somebody heard faintly on another’s side while they speak. That side is muted there.',
    turns: 'Softer than the side’s own by',
    does: 'mute',
  },
  holes: { title: 'Holes', one: 'hole', reason: 'Dropped samples: short digital silence. Filled from both sides.', does: 'repair' },
}
