import { closeSync, ftruncateSync, openSync, writeSync } from 'node:fs'

/** A file that is written from its start on, over whatever an earlier go, cut short, left in it: the same bytes come again. */
export class Growing {
  private readonly file: number
  private at = 0

  constructor(path: string) {
    closeSync(openSync(path, 'a'))
    this.file = openSync(path, 'r+')
  }

  add(bytes: Uint8Array): void {
    for (let done = 0; done < bytes.length;) done += writeSync(this.file, bytes, done, bytes.length - done, this.at + done)
    this.at += bytes.length
  }

  close(): void {
    ftruncateSync(this.file, this.at)
    closeSync(this.file)
  }
}
