import type { WhatItDid } from '../../core/mend/whatItDid'

const dB = (value: number): string => `${Math.abs(value).toFixed(0)} dB`
const count = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`

/** What a treatment did, in figures. */
export function didInWords(did: WhatItDid): string[] {
  return [
    did.room >= 1 ? `room ${dB(did.room)} softer` : did.room <= -1 ? `room ${dB(did.room)} louder` : '',
    (did.hum ?? 0) >= 1 ? `hum ${dB(did.hum!)} softer` : '',
    did.clicks > 0 ? `${count(did.clicks, 'click', 'clicks')} repaired` : '',
    did.pops > 0 ? `${count(did.pops, 'pop', 'pops')} softened` : '',
    did.peaks > 0 ? `${count(did.peaks, 'peak', 'peaks')} restored` : '',
    did.voice > -60 ? `−${dB(did.voice)} of the voice is changed` : '',
  ].filter(Boolean)
}
