import { useMutation } from '@tanstack/react-query'
import { ImagePlus, X } from 'lucide-react'
import { useRef } from 'react'
import { MOST_STILL_BYTES, type PictureOrder } from '../../contract/pictures'
import type { Shape } from '../../core/picture/shapes'
import { postFile } from '../api/client'
import { Button, Choice } from '../ui/parts'
import { PicturePreview, type Shown } from './PicturePreview'

const SHAPES: readonly (readonly [Shape, string])[] = [
  ['wide', 'wide, 16:9'],
  ['square', 'square'],
  ['upright', 'upright, 9:16'],
]

/** What a picture with sound shows, and how it will look. */
export function PictureChoices({
  picture,
  shown,
  onChange,
}: {
  picture: PictureOrder
  shown: Shown
  onChange: (picture: PictureOrder) => void
}) {
  const chooser = useRef<HTMLInputElement>(null)
  const bring = useMutation({
    mutationFn: async (file: File) => {
      if (file.size > MOST_STILL_BYTES) throw new Error('It is larger than 25 MB. Make it smaller, then try again.')
      return postFile<{ id: string }>('/stills', file)
    },
    onSuccess: ({ id }) => onChange({ ...picture, still: id }),
  })
  return (
    <div className="grid grid-cols-[1fr_auto] items-start gap-6 max-[640px]:grid-cols-1" data-testid="picture">
      <div className="flex flex-col gap-4">
        <Choice label="Shape" value={picture.shape} onChange={(shape) => onChange({ ...picture, shape })} options={SHAPES} />
        <Choice
          label="Captions"
          value={picture.captions ? 'yes' : 'no'}
          onChange={(value) => onChange({ ...picture, captions: value === 'yes' })}
          options={[
            ['yes', 'in the picture'],
            ['no', 'none'],
          ]}
        />
        <div>
          <p className="mb-1 text-[12px] text-faint">Still image</p>
          <div className="flex flex-wrap gap-1">
            <Button disabled={bring.isPending} onClick={() => chooser.current?.click()}>
              <ImagePlus size={15} /> {bring.isPending ? 'Coming …' : picture.still ? 'Another image' : 'Choose an image'}
            </Button>
            {picture.still && (
              <Button look="bare" onClick={() => onChange({ ...picture, still: undefined })}>
                <X size={15} /> Title instead
              </Button>
            )}
          </div>
          <input
            ref={chooser}
            type="file"
            accept="image/jpeg,image/png,image/webp"
            aria-label="Still image"
            className="hidden"
            onChange={(event) => {
              const file = event.target.files?.[0]
              event.target.value = ''
              if (file) bring.mutate(file)
            }}
          />
          {bring.error && (
            <p role="alert" className="mt-1 text-[13px] text-cut-ink">
              {bring.error.message}
            </p>
          )}
        </div>
      </div>
      <PicturePreview picture={picture} shown={shown} onGone={() => onChange({ ...picture, still: undefined })} />
    </div>
  )
}
