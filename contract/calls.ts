/** A call on the newsroom's line. */
export interface CallInfo {
  id: string
  caller: string
  /** `answering`, `declining` and `ending` are wishes that whoever holds the line carries out. */
  state: 'ringing' | 'answering' | 'declining' | 'on' | 'ending' | 'over' | 'missed' | 'declined'
  /** What records it, from when it is answered. */
  tape: string | null
  at: string
}
