import { Button, Empty } from './parts'

/** In place of a view that could not go on: what to do, and that nothing is lost. */
export function Stopped({ error }: { error: unknown }) {
  return (
    <main role="alert" className="grid h-screen place-items-center bg-paper">
      <Empty title="This screen crashed; your edits are saved.">
        <p>The fault is ours. Everything up to your last edit is stored.</p>
        <div className="mt-6 flex justify-center gap-3">
          <Button look="strong" onClick={() => location.reload()}>
            Reload
          </Button>
          <Button onClick={() => location.assign('/')}>To the Desk</Button>
        </div>
        <p className="mt-6 text-[12px]">{error instanceof Error ? error.message : String(error)}</p>
      </Empty>
    </main>
  )
}
