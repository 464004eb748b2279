import { Button, Empty } from './parts'

/** In place of a view that could not go on: what to do, and that nothing is lost. */
export function Stopped({ error }: { error: unknown }) {
  return (
    <main role="alert" className="grid h-screen place-items-center bg-paper">
      <Empty title="This view has stopped.">
        <p>The fault is ours. All that you did is kept, up to your last act.</p>
        <div className="mt-6 flex justify-center gap-3">
          <Button look="strong" onClick={() => location.reload()}>Open it again</Button>
          <Button onClick={() => location.assign('/')}>To the Desk</Button>
        </div>
        <p className="mt-6 text-[12px]">{error instanceof Error ? error.message : String(error)}</p>
      </Empty>
    </main>
  )
}
