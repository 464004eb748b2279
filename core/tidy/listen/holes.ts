import { milliseconds, type Frames, type Stretch } from '../../time'

/** Gaps of digital silence within sound: samples that were dropped, or a writer that came too late. */

/** A shorter run of one value is a wave that happens to rest; a longer one is where somebody stopped the recorder. */
const [SHORTEST, LONGEST]: Frames[] = [milliseconds(1), milliseconds(400)]
/** On both sides something sounds within this, above so much of full scale: quiet tape of few bits rests on one value as well. */
const BESIDE: Frames = milliseconds(5)
const LOUD = 0.0004

/** Listens for holes to sound that comes in blocks of any size. */
export class HoleListener {
  private readonly holes: Stretch[] = []
  private at: Frames = 0
  private last = 0
  /** Where the value that came last began. */
  private since: Frames = 0
  /** The loudest before it, falling off within `BESIDE`. */
  private before = 0
  private loudBefore = false
  /** A hole that is over, until it is known what comes behind it. */
  private open: (Stretch & { until: Frames }) | null = null

  add(sound: Float32Array): void {
    const fall = 1 - 1 / BESIDE
    for (let i = 0; i < sound.length; i++, this.at++) {
      const x = sound[i]
      if (x === this.last) continue
      const size = Math.abs(x)
      const length = this.at - this.since
      if (length >= SHORTEST && length <= LONGEST && this.loudBefore) this.open = { from: this.since, to: this.at, until: this.at + BESIDE }
      if (this.open) {
        if (size > LOUD) this.holes.push({ from: this.open.from, to: this.open.to })
        if (size > LOUD || this.at > this.open.until) this.open = null
      }
      this.before = Math.max(size, this.before * (length === 1 ? fall : fall ** length))
      this.loudBefore = this.before > LOUD
      this.last = x
      this.since = this.at
    }
  }

  finish = (): Stretch[] => this.holes
}
