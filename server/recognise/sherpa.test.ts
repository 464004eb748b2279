import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, expect, it } from 'vitest'
import { chosenRecogniser } from './recognisers'
import { modelConfig } from './sherpa'

const folders: string[] = []
const folderWith = (...files: string[]) => {
  const folder = mkdtempSync(join(tmpdir(), 'model-'))
  folders.push(folder)
  for (const file of files) writeFileSync(join(folder, file), '')
  return folder
}
afterEach(() => folders.splice(0).forEach((folder) => rmSync(folder, { recursive: true })))

it('a model is known by its files, the smaller of two first', () => {
  const folder = folderWith(
    'tokens.txt',
    'encoder-epoch-30.onnx',
    'encoder-epoch-30.int8.onnx',
    'decoder-epoch-30.onnx',
    'joiner-epoch-30.onnx',
    'README.md',
  )
  expect(modelConfig(folder)).toMatchObject({
    modelConfig: {
      transducer: { encoder: join(folder, 'encoder-epoch-30.int8.onnx'), joiner: join(folder, 'joiner-epoch-30.onnx') },
      tokens: join(folder, 'tokens.txt'),
    },
  })
  const ctc = folderWith('tokens.txt', 'model.onnx')
  expect(modelConfig(ctc)).toMatchObject({ modelConfig: { zipformerCtc: { model: join(ctc, 'model.onnx') } } })
})

it('a folder without one, or a name for nothing, is refused in words', () => {
  expect(() => modelConfig(folderWith('tokens.txt', 'encoder.onnx'))).toThrow(/no model for recognising speech/)
  expect(() => chosenRecogniser({ recogniser: 'sherpa:/nowhere' })).toThrow(/no model/)
  expect(() => chosenRecogniser({ recogniser: 'parrot' })).toThrow(/it is sphinx, sherpa:FOLDER, or the address of a service/)
  expect(chosenRecogniser({ recogniser: 'sphinx' }).languages).toEqual(['en'])
})
