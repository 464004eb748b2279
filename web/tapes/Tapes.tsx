import { Link } from 'react-router'
import { MoreHorizontal } from 'lucide-react'
import type { TapeInfo } from '../../contract/tapes'
import { clock } from '../../core/time'
import { patch } from '../api/client'
import { useTapes } from '../api/queries'
import { Button, CommandButton, CommandKey, Empty, Menu, MenuItem, Progress } from '../ui/parts'
import { SetAside } from '../ui/SetAside'
import { Crumb, Shell } from '../ui/Shell'

/** All tapes, the newest first. */
export function Tapes() {
  const { data } = useTapes()
  const tapes = data?.filter((tape) => !tape.aside) ?? []
  const aside = data?.filter((tape) => tape.aside) ?? []
  return (
    <Shell path={<><Crumb to="/">Desk</Crumb><Crumb>Tapes</Crumb></>}>
      <div className="min-h-0 flex-1 overflow-y-auto px-10 py-8 max-[1180px]:px-6">
        <div className="mb-5 flex items-baseline justify-between">
          <h1 className="font-serif text-[28px] font-semibold">Tapes</h1>
          <CommandButton id="new.tape" look="strong">Bring a tape in</CommandButton>
        </div>
        {data && tapes.length === 0 && <Empty title="No tape yet.">Drop a file from your recorder or phone anywhere on this window, or choose one with <CommandKey id="new.tape" />. WAV, MP3, FLAC, M4A, Ogg and most others will do.</Empty>}
        {tapes.length > 0 && (
          <table className="w-full border-collapse" data-testid="tapes">
            <thead className="text-left text-[12px] text-faint">
              <tr>
                <th scope="col" className="pb-2 font-semibold">Tape</th>
                <th scope="col" className="pb-2 font-semibold">Who</th>
                <th scope="col" className="pb-2 text-right font-semibold">Length</th>
                <th scope="col" className="pb-2 pl-8 font-semibold">Words</th>
                <th scope="col" className="pb-2 font-semibold">Came</th>
                <th scope="col"><span className="sr-only">More</span></th>
              </tr>
            </thead>
            <tbody>{tapes.map((tape) => <Row key={tape.id} tape={tape} />)}</tbody>
          </table>
        )}
        <SetAside rows={aside.map(({ id, name }) => ({ id, name: name }))} />
      </div>
    </Shell>
  )
}

function Row({ tape }: { tape: TapeInfo }) {
  return (
    <tr className="border-t border-rule align-top last:border-b hover:bg-paper-lit">
      <td className="py-3.5 pr-6">
        <Link to={`/tapes/${tape.id}`} className="font-serif text-[18px] font-medium hover:underline">{tape.name}</Link>
        <p className="text-[13px] text-faint">{tape.fileName}</p>
      </td>
      <td className="py-3.5 pr-6 text-soft">{[tape.speaker, tape.role].filter(Boolean).join(', ') || (tape.sides.length > 1 ? tape.sides.map((side) => side.name).filter(Boolean).join(' and ') : '')}</td>
      <td className="w-40 py-3.5 text-right font-semibold">
        {tape.state === 'arriving' ? <span className="flex flex-col items-end gap-1.5 font-normal text-faint">arriving<Progress value={tape.progress} label={`${tape.name} arriving`} /></span> : clock(tape.frames)}
      </td>
      <td className="py-3.5 pl-8 text-soft">{tape.hasWords ? 'yes' : 'none yet'}</td>
      <td className="py-3.5 text-soft">{new Date(tape.added).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })}</td>
      <td className="py-2.5 pl-2 text-right">
        <Menu label={`More for ${tape.name}`} trigger={<Button look="bare" className="px-2"><MoreHorizontal size={16} /></Button>}>
          <MenuItem onSelect={() => void patch(`/documents/${tape.id}`, { aside: true })}>Set aside</MenuItem>
        </Menu>
      </td>
    </tr>
  )
}
