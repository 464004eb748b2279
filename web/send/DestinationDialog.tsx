import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { DESTINATION_KINDS, type DestinationInfo, type DestinationOrder } from '../../contract/destinations'
import { post, put, remove } from '../api/client'
import { orSay } from '../api/orSay'
import { Button, Choice, Dialog, Field } from '../ui/parts'
import { KINDS } from './destinationKinds'

const NEW: DestinationOrder = { name: '', kind: 'folder', address: '', user: '', field: 'file', heedsKey: false, sameName: 'ask' }

/** Sets up a destination, and tries whether it can be reached. */
export function DestinationDialog({ of, onClose }: { of: DestinationInfo | null; onClose: () => void }) {
  const [order, setOrder] = useState<DestinationOrder>(() => (of ? orderOf(of) : NEW))
  const [id] = useState(() => of?.id ?? crypto.randomUUID())
  const set = (change: Partial<DestinationOrder>) => setOrder((now) => ({ ...now, ...change }))
  const keep = () => put<DestinationInfo>(`/destinations/${id}`, order)
  const keeping = useMutation({ mutationFn: keep, onSuccess: onClose })
  const trying = useMutation({
    mutationFn: async () => {
      await keep()
      return post<DestinationInfo>(`/destinations/${id}/try`, {})
    },
  })
  const { kind } = order
  const hasUser = kind !== 'folder'
  const wrong = keeping.error ?? trying.error
  return (
    <Dialog open title={of ? `Destination ${of.name}` : 'New destination'} onClose={onClose}>
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault()
          keeping.mutate()
        }}
      >
        <Field
          label="Name"
          value={order.name}
          maxLength={80}
          placeholder="Playout"
          onChange={(event) => set({ name: event.target.value })}
        />
        <Choice
          label="By"
          value={kind}
          onChange={(value) => set({ kind: value, address: '' })}
          options={DESTINATION_KINDS.map((one) => [one, KINDS[one].name] as const)}
        />
        <Field
          label={KINDS[kind].address}
          value={order.address}
          maxLength={500}
          placeholder={KINDS[kind].example}
          onChange={(event) => set({ address: event.target.value.trim() })}
        />
        {hasUser && (
          <div className="grid grid-cols-2 gap-4">
            <Field
              label="User"
              value={order.user}
              maxLength={100}
              autoComplete="off"
              onChange={(event) => set({ user: event.target.value })}
            />
            <Field
              label={kind === 'sftp' ? 'Password or private key' : 'Password'}
              type="password"
              autoComplete="new-password"
              value={order.secret ?? ''}
              placeholder={of?.hasSecret ? 'kept; type to change it' : ''}
              onChange={(event) => set({ secret: event.target.value })}
            />
          </div>
        )}
        {kind === 'form' && (
          <>
            <Field label="Field of the file" value={order.field} maxLength={80} onChange={(event) => set({ field: event.target.value })} />
            <label className="flex items-start gap-2 text-[13px]">
              <input
                type="checkbox"
                className="mt-0.5"
                checked={order.heedsKey}
                onChange={(event) => set({ heedsKey: event.target.checked })}
              />
              <span>
                It knows a sending that it had before by its Idempotency-Key.
                <span className="block text-faint">Otherwise a sending that breaks off before it is confirmed waits for you.</span>
              </span>
            </label>
          </>
        )}
        <Choice
          label="Where there is another file of its name"
          value={order.sameName}
          onChange={(sameName) => set({ sameName })}
          options={[
            ['ask', 'ask'],
            ['replace', 'replace that file'],
            ['beside', 'take another name'],
          ]}
        />
        {of?.hostKey && (
          <p className="text-[13px] text-soft">
            Known by the key <code className="break-all">{of.hostKey}</code>.{' '}
            <button
              type="button"
              className="text-tape hover:underline"
              onClick={() => orSay(remove(`/destinations/${id}/hostKey`).then(onClose))}
            >
              Its key was changed: accept the new one
            </button>
          </p>
        )}
        {wrong && (
          <p role="alert" className="text-[13px] text-cut-ink">
            {wrong.message}
          </p>
        )}
        {trying.isSuccess && (
          <p role="status" className="text-[13px] text-tape">
            It answers.
          </p>
        )}
        <div className="flex gap-2">
          {of && (
            <Button look="bare" onClick={() => orSay(remove(`/destinations/${id}`).then(onClose))}>
              Remove
            </Button>
          )}
          <span className="flex-1" />
          <Button disabled={trying.isPending || !order.name || !order.address} onClick={() => trying.mutate()}>
            {trying.isPending ? 'Trying …' : 'Keep and try'}
          </Button>
          <Button look="strong" type="submit" disabled={keeping.isPending || !order.name || !order.address}>
            Keep
          </Button>
        </div>
      </form>
    </Dialog>
  )
}

const orderOf = ({ name, kind, address, user, field, heedsKey, sameName }: DestinationInfo): DestinationOrder => ({
  name,
  kind,
  address,
  user,
  field,
  heedsKey,
  sameName,
})
