import { expect, it } from 'vitest'
import { nicks } from './gone'
import { benchLayout, nicksIn, toBench, toPiece } from './benchLayout'
import { normal, plainJoin } from './editList'

const list = normal([
  { tape: 't', from: 0, to: 1000, sound: 'tape' },
  { tape: 't', from: 1500, to: 3000, sound: 'tape', join: plainJoin() },
])
const opened = nicks({ spans: list })

it('is the piece itself where nothing is open', () => {
  const layout = benchLayout(list, [])
  expect(layout.length).toBe(2500)
  for (const frame of [0, 999, 1000, 2500]) expect([toPiece(layout, frame), toBench(layout, frame)]).toEqual([frame, frame])
})

it('makes room for what was taken out', () => {
  const layout = benchLayout(list, opened)
  expect(layout.length).toBe(3000)
  expect(layout.runs.map((run) => [run.at, run.length, run.nick !== null])).toEqual([
    [0, 1000, false],
    [1000, 500, true],
    [1500, 1500, false],
  ])
  expect([toPiece(layout, 999), toPiece(layout, 1200), toPiece(layout, 1600)]).toEqual([999, 1000, 1100])
  expect([toBench(layout, 999), toBench(layout, 1000), toBench(layout, 1100)]).toEqual([999, 1500, 1600])
  expect(nicksIn(layout, 900, 1100)).toEqual([{ nick: opened[0], from: 1000, to: 1100 }])
  expect(nicksIn(layout, 0, 1000)).toEqual([])
})
