import { describe, expect, it } from 'vitest'
import { RATE } from './time'
import { panText, parseFigure, parseLength, parsePan, parseTimeOfDay } from './typed'

describe('what people type', () => {
  it.each([
    ['3:30', 210],
    ['3.30', 210],
    ["3'30", 210],
    ['3’30”', 210],
    ['3m30', 210],
    ['3m30s', 210],
    ['3 min 30 s', 210],
    ['210', 210],
    ['210s', 210],
    [':45', 45],
    ['45', 45],
    ['3', 180],
    ['3 min', 180],
    ['1:02:03', 3723],
    [' 3:05 ', 185],
    ['3:30.5', 210.5],
  ])('%s is a length', (text, seconds) => expect(parseLength(text)).toBe(Math.round(seconds * RATE)))

  it.each(['', 'soon', '3:3', '3:75', '3.5', '-3:30', '3:30:99', '1:75:00', '3 4'])('%s is none', (text) =>
    expect(parseLength(text)).toBeNull(),
  )

  it.each([
    ['18:20', '18:20'],
    ['1820', '18:20'],
    ['18.20', '18:20'],
    ['18h20', '18:20'],
    ['7:05', '07:05'],
    ['6:20 pm', '18:20'],
    ['6pm', '18:00'],
    ['12am', '00:00'],
    ['705', '07:05'],
  ])('%s is a time of day', (text, time) => expect(parseTimeOfDay(text)).toBe(time))

  it.each(['', '25:00', '18:75', '18', 'noon', '13pm'])('%s is none', (text) => expect(parseTimeOfDay(text)).toBeNull())

  it.each([
    ['-9', -9],
    ['−9,5', -9.5],
    [' 0.35 ', 0.35],
  ])('%s is a figure', (text, value) => expect(parseFigure(text)).toBe(value))

  it.each(['', ' ', 'soft', '1.2.3'])('“%s” is no figure', (text) => expect(parseFigure(text)).toBeNull())
})

describe('a place between left and right', () => {
  it.each([
    ['30 left', -0.3],
    ['L30', -0.3],
    ['−30', -0.3],
    ['right 100', 1],
    ['r', 1],
    ['45', 0.45],
    ['middle', 0],
    ['0', 0],
    ['left', -1],
  ])('%s', (text, to) => {
    expect(parsePan(text)).toBe(to)
    expect(parsePan(panText(to))).toBe(to)
  })
  it.each(['', '101', 'up', 'left 5 right', 'left -5', '5.5', '%'])('not %s', (text) => expect(parsePan(text)).toBeNull())
})
