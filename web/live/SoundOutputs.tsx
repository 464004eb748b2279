import { useEffect, useState } from 'react'
import { toast } from 'sonner'
import { Button } from '../ui/parts'
import { outputs } from './useBoard'

interface Device {
  id: string
  name: string
}

const outputsNow = async (): Promise<Device[]> =>
  (await navigator.mediaDevices.enumerateDevices())
    .filter(({ kind, deviceId }) => kind === 'audiooutput' && deviceId && deviceId !== 'default')
    .map(({ deviceId, label }, i) => ({ id: deviceId, name: label || `Output ${i + 1}` }))

/** The machine's ways out for sound, as far as the browser tells: it names them only to who may use the microphone. */
function useDevices(): { devices: readonly Device[]; ask: () => Promise<void> } {
  const [devices, setDevices] = useState<readonly Device[]>([])
  useEffect(() => {
    const media = navigator.mediaDevices as MediaDevices | undefined
    if (!media) return
    const look = () => void outputsNow().then(setDevices)
    look()
    media.addEventListener('devicechange', look)
    return () => media.removeEventListener('devicechange', look)
  }, [])
  const ask = async () => {
    const stream = await navigator.mediaDevices.getUserMedia({ audio: true })
    stream.getTracks().forEach((track) => track.stop())
    setDevices(await outputsNow())
  }
  return { devices, ask }
}

/** Which output is on air, and on which other one the reporter hears beforehand; never the same. */
export function SoundOutputs() {
  const { devices, ask } = useDevices()
  const [air, setAir] = useState(String(localStorage.boardAir ?? ''))
  const [own, setOwn] = useState(String(localStorage.boardEars ?? ''))
  const chooseAir = (id: string) => {
    setAir((localStorage.boardAir = id))
    if (id === own) setOwn((localStorage.boardEars = ''))
    outputs.air.open(id).catch(() => toast.error('That sound output is not available.'))
  }
  const chooseOwn = (id: string) => setOwn((localStorage.boardEars = id))
  const select = 'h-9 max-w-44 rounded-md border border-rule bg-paper-lit px-2 text-[13px]'
  return (
    <>
      <label className="flex items-center gap-2 text-[13px] text-soft">
        On air
        <select className={select} value={air} onChange={(event) => chooseAir(event.target.value)}>
          <option value="">usual output</option>
          {devices.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-2 text-[13px] text-soft">
        For yourself
        <select className={select} value={own} onChange={(event) => chooseOwn(event.target.value)}>
          <option value="">none</option>
          {devices
            .filter(({ id }) => id !== air)
            .map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
        </select>
      </label>
      {devices.length === 0 && (
        <Button look="bare" onClick={() => ask().catch(() => toast.error('The browser does not name any other sound output.'))}>
          Find other outputs
        </Button>
      )}
    </>
  )
}
