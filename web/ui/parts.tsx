import { Dialog as RadixDialog, DropdownMenu, Tooltip } from 'radix-ui'
import type { ButtonHTMLAttributes, InputHTMLAttributes, ReactNode } from 'react'
import { X } from 'lucide-react'

/** The small parts that every view is made of. */

export type Look = keyof typeof LOOKS

const LOOKS = {
  strong: 'bg-ink text-paper hover:bg-soft disabled:bg-grain',
  plain: 'border border-rule bg-paper-lit hover:border-grain',
  bare: 'hover:bg-paper-low',
  cut: 'bg-cut-ink text-paper hover:opacity-90',
}

export function Button({ look = 'plain', className = '', ...rest }: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look }) {
  return (
    <button
      type="button"
      className={`inline-flex h-8 shrink-0 items-center gap-1.5 rounded-md px-3 text-[13px] font-medium whitespace-nowrap
        transition-colors disabled:cursor-default disabled:opacity-60 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  )
}

export function Key({ children }: { children: string }) {
  return (
    <kbd
      className={`inline-flex h-5 min-w-5 items-center justify-center rounded border border-rule bg-paper-lit px-1.5
      font-sans text-[11px] text-soft`}
    >
      {children}
    </kbd>
  )
}

export function Tip({ text, children }: { text: ReactNode; children: ReactNode }) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content sideOffset={6} className="z-50 flex items-center gap-2 rounded-md bg-ink px-2.5 py-1.5 text-[12px] text-paper">
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  )
}

/** The first thing that can be done in a dialog has the focus, rather than its Close. */
function focusFirst(event: Event): void {
  const content = event.currentTarget as HTMLElement
  const first = content.querySelector<HTMLElement>(
    '[data-body] :is(input, select, textarea, button, a[href]):not([disabled], [type=hidden], [hidden])',
  )
  // what asks for the focus itself has it already
  if (content.contains(document.activeElement) || !first) return
  event.preventDefault()
  first.focus()
}

export function Dialog({
  title,
  open,
  onClose,
  children,
  wide,
  describe,
}: {
  title: string
  open: boolean
  onClose: () => void
  children: ReactNode
  wide?: boolean
  describe?: string
}) {
  return (
    <RadixDialog.Root open={open} onOpenChange={(now) => !now && onClose()}>
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="fixed inset-0 z-30 bg-ink/30" />
        <RadixDialog.Content
          {...(describe ? {} : { 'aria-describedby': undefined })}
          onOpenAutoFocus={focusFirst}
          className={`fixed top-[8vh] left-1/2 z-40 flex max-h-[84vh] -translate-x-1/2 flex-col overflow-hidden rounded-xl
            border border-rule bg-paper shadow-2xl ${wide ? 'w-[min(56rem,94vw)]' : 'w-[min(30rem,94vw)]'}`}
        >
          <header className="flex items-center justify-between px-6 pt-5 pb-3">
            <RadixDialog.Title className="font-serif text-[20px] font-semibold">{title}</RadixDialog.Title>
            <RadixDialog.Close className="rounded p-1 text-faint hover:text-ink" aria-label="Close">
              <X size={18} />
            </RadixDialog.Close>
          </header>
          {describe && <RadixDialog.Description className="px-6 pb-2 text-soft">{describe}</RadixDialog.Description>}
          <div data-body className="min-h-0 overflow-y-auto px-6 pb-6">
            {children}
          </div>
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
  )
}

export function Menu({ label, trigger, children }: { label: string; trigger: ReactNode; children: ReactNode }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild aria-label={label}>
        {trigger}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          className={`z-40 max-h-[var(--radix-dropdown-menu-content-available-height)] min-w-44 overflow-y-auto rounded-lg
            border border-rule bg-paper p-1 shadow-xl`}
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

export function MenuItem({ children, onSelect, disabled }: { children: ReactNode; onSelect: () => void; disabled?: boolean }) {
  return (
    <DropdownMenu.Item
      disabled={disabled}
      onSelect={onSelect}
      className={`flex cursor-pointer items-center gap-2 rounded px-3 py-1.5 text-[13px] outline-none
        data-[disabled]:opacity-50 data-[highlighted]:bg-paper-low`}
    >
      {children}
    </DropdownMenu.Item>
  )
}

export function Field({ label, className = '', ...rest }: InputHTMLAttributes<HTMLInputElement> & { label: string }) {
  return (
    <label className={`flex flex-col gap-1 ${className}`}>
      <span className="text-[12px] text-faint">{label}</span>
      <input
        className="h-9 rounded-md border border-rule bg-paper-lit px-2.5 text-[14px] text-ink focus:border-tape focus:outline-none"
        {...rest}
      />
    </label>
  )
}

/** A choice of a few, all in sight. */
export function Choice<T extends string | number>({
  label,
  value,
  options,
  onChange,
}: {
  label: string
  value: T
  options: readonly (readonly [T, string])[]
  onChange: (value: T) => void
}) {
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="mb-1 text-[12px] text-faint">{label}</legend>
      <div className="flex flex-wrap gap-1">
        {options.map(([option, text]) => (
          <label
            key={String(option)}
            className={`cursor-pointer rounded-md border px-2.5 py-1.5 text-[13px] has-focus-visible:outline-2
              has-focus-visible:outline-tape
              ${option === value ? 'border-ink bg-ink text-paper' : 'border-rule bg-paper-lit hover:border-grain'}`}
          >
            <input type="radio" className="sr-only" name={label} checked={option === value} onChange={() => onChange(option)} />
            {text}
          </label>
        ))}
      </div>
    </fieldset>
  )
}

/** What stands where there is nothing yet, as a colleague would say it. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="mx-auto max-w-md px-6 py-16 text-center">
      <p className="font-serif text-[20px]">{title}</p>
      {children && <div className="mt-3 text-soft">{children}</div>}
    </div>
  )
}

export function Progress({ value, label }: { value: number; label: string }) {
  return (
    <div
      role="progressbar"
      aria-label={label}
      aria-valuenow={Math.round(value * 100)}
      aria-valuemin={0}
      aria-valuemax={100}
      className="h-1.5 w-full overflow-hidden rounded-full bg-rule"
    >
      <div className="h-full rounded-full bg-ink transition-[width]" style={{ width: `${value * 100}%` }} />
    </div>
  )
}
