/** What two channels have to do with each other, from running sums over their samples. */
export class Likeness {
  private left = 0
  private right = 0
  private both = 0

  add(left: Float32Array, right: Float32Array): void {
    let l = 0
    let r = 0
    let b = 0
    for (let i = 0; i < left.length; i++) {
      const x = left[i]
      const y = right[i]
      l += x * x
      r += y * y
      b += x * y
    }
    this.left += l
    this.right += r
    this.both += b
  }

  /** -1 for one upside down, 0 for nothing in common, 1 for the same. */
  get correlation(): number {
    const power = Math.sqrt(this.left * this.right)
    return power > 0 ? this.both / power : 0
  }

  /** The same to the ear: their difference lies 50 dB below them. */
  get same(): boolean {
    return this.left > 0 && this.left + this.right - 2 * this.both < 1e-5 * (this.left + this.right)
  }
}
