import { Button } from '../ui/parts'
import { Crumb, Shell } from './Shell'
import { KeyTable } from '../commands/KeyTable'

/** All keys on one page, to print and lay beside the keyboard. */
export function KeysView() {
  return (
    <Shell
      path={
        <>
          <Crumb to="/">Desk</Crumb>
          <Crumb>Keyboard shortcuts</Crumb>
        </>
      }
    >
      <div className="min-h-0 flex-1 overflow-y-auto px-10 py-8 max-[860px]:px-4 print:overflow-visible print:p-0">
        <div className="mb-5 flex items-baseline justify-between gap-4 print:mb-2">
          <h1 className="font-serif text-[28px] font-semibold print:text-[16px]">Keyboard shortcuts</h1>
          <span className="print:hidden">
            <Button look="strong" onClick={() => window.print()}>
              Print
            </Button>
          </span>
        </div>
        <KeyTable fixed />
      </div>
    </Shell>
  )
}
