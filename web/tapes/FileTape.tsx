import { useState } from 'react'
import { useQueryClient } from '@tanstack/react-query'
import type { StoryRow } from '../../contract/desk'
import type { LibraryRow } from '../../contract/library'
import type { TapeStep } from '../../core/tape/tape'
import { liveDocument } from '../documents/useDocument'
import { Button, Dialog, Field } from '../ui/parts'

/** What a tape is filed by: its name, who speaks, when, tags, and the stories it belongs to. */
export function FileTape({ tape, stories, onClose }: { tape: LibraryRow; stories: readonly StoryRow[]; onClose: () => void }) {
  const queries = useQueryClient()
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set(tape.stories))
  const save = async (form: FormData) => {
    const text = (key: string) => String(form.get(key) ?? '').trim()
    const tags = [
      ...new Set(
        text('tags')
          .split(',')
          .map((tag) => tag.trim().slice(0, 60))
          .filter(Boolean),
      ),
    ].slice(0, 50)
    const wanted = {
      name: text('name') || tape.name,
      speaker: text('speaker'),
      role: text('role'),
      day: text('day'),
      tags,
      stories: [...chosen],
    }
    const steps = (Object.entries(wanted) as [keyof typeof wanted, string | string[]][])
      .filter(([key, value]) => JSON.stringify(value) !== JSON.stringify(tape[key]))
      .map(([key, value]): TapeStep => ({ type: 'set', id: 'tape', key, value }) as TapeStep)
    if (steps.length) (await liveDocument(tape.id, 'tape')).act(steps, { label: 'file' })
    onClose()
    // the act is under way; the list shows it once the server has it
    setTimeout(() => void queries.invalidateQueries({ queryKey: ['tapes'] }), 300)
  }
  return (
    <Dialog open title="Tape details" onClose={onClose}>
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault()
          void save(new FormData(event.currentTarget))
        }}
      >
        <Field label="Name" name="name" defaultValue={tape.name} maxLength={200} autoFocus />
        <div className="grid grid-cols-2 gap-4">
          <Field label="Speaker" name="speaker" defaultValue={tape.speaker} maxLength={200} />
          <Field label="Role" name="role" defaultValue={tape.role} maxLength={200} />
        </div>
        <div className="grid grid-cols-[150px_1fr] gap-4">
          <Field label="Recorded on" name="day" type="date" defaultValue={tape.day} />
          <Field label="Tags, with commas between them" name="tags" defaultValue={tape.tags.join(', ')} placeholder="ferry, quay" />
        </div>
        {stories.length > 0 && (
          <fieldset>
            <legend className="mb-1 text-[12px] text-faint">In the stories</legend>
            <div className="flex flex-col gap-1">
              {stories
                .filter((story) => !story.aside || chosen.has(story.id))
                .map((story) => (
                  <label key={story.id} className="flex items-center gap-2 text-[14px]">
                    <input
                      type="checkbox"
                      className="accent-[var(--tape)]"
                      checked={chosen.has(story.id)}
                      onChange={({ target }) =>
                        setChosen((now) => new Set(target.checked ? [...now, story.id] : [...now].filter((id) => id !== story.id)))
                      }
                    />
                    {story.slug || 'Untitled'}
                  </label>
                ))}
            </div>
          </fieldset>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button look="strong" type="submit">
            Save
          </Button>
        </div>
      </form>
    </Dialog>
  )
}
