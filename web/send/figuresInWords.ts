import { SILENCE } from '../../core/hearing/ear'
import type { FileFigures } from '../../contract/sends'

const signed = (value: number): string => value.toFixed(1).replace('-', '−')

/** `−23.4 LUFS, true peak −3.1 dBTP`, of a file. */
export const figuresInWords = ({ loudness, truePeak }: FileFigures): string =>
  loudness <= SILENCE ? 'silent, or too short to have a loudness' : `${signed(loudness)} LUFS, true peak ${signed(truePeak)} dBTP`
