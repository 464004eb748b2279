import { useQuery } from '@tanstack/react-query'
import { LineChart } from 'echarts/charts'
import { GridComponent, MarkAreaComponent, TooltipComponent } from 'echarts/components'
import { init, use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { useEffect, useRef } from 'react'
import type { TapeInfo } from '../../contract/tapes'
import { STEP } from '../../core/hearing/levels'
import { asHeard, lufs, shortTermOf, together } from '../../core/hearing/loudness'
import { PEAK_LEVELS, PER_BIN } from '../../core/sound/peaks'
import { clock, type Frames, type Stretch } from '../../core/time'
import { getBytes } from '../api/client'
import { colour, useTheme } from '../ui/theme'

use([LineChart, GridComponent, MarkAreaComponent, TooltipComponent, CanvasRenderer])

/** About as many points as a chart has pixels. */
const POINTS = 900
const QUIETEST = -60

async function fetchChart(tape: TapeInfo): Promise<{ loudness: [number, number][]; wave: [number, number, number][] }> {
  const channels = tape.sides.flatMap((side) => side.channels)
  const powers = together(
    await Promise.all(channels.map(async (channel) => new Float32Array(await getBytes(`/tapes/${tape.id}/loudness/${channel}`)))),
    asHeard(tape.sides),
  )
  const short = shortTermOf(powers)
  const every = Math.max(1, Math.floor(short.length / POINTS))
  const loudness: [number, number][] = []
  for (let i = 0; i < short.length; i += every) loudness.push([(i + 15) * STEP, Math.max(QUIETEST, lufs(short[i]))])
  let level = 0
  while (level + 1 < PEAK_LEVELS.length && tape.frames / PEAK_LEVELS[level] > 2 * POINTS) level++
  const size = PEAK_LEVELS[level]
  const bins = Math.ceil(tape.frames / size)
  const peaks = await Promise.all(
    channels.map(
      async (channel) =>
        new Int16Array(await getBytes(`/tapes/${tape.id}/peaks/sound/${channel}/${level}?from=0&to=${Math.min(bins, 200_000)}`)),
    ),
  )
  const count = peaks[0].length / PER_BIN
  const join = Math.max(1, Math.floor(count / POINTS))
  const wave: [number, number, number][] = []
  for (let bin = 0; bin < count; bin += join) {
    let [low, high] = [0, 0]
    for (let i = bin; i < Math.min(bin + join, count); i++)
      for (const channel of peaks) {
        low = Math.min(low, channel[i * PER_BIN])
        high = Math.max(high, channel[i * PER_BIN + 1])
      }
    wave.push([bin * size, low / 32767, high / 32767])
  }
  return { loudness, wave }
}

/** Short-term loudness along a tape, with the tape under it. A click goes there. */
export function LoudnessChart({ tape, selected, onGo }: { tape: TapeInfo; selected: Stretch | null; onGo: (frame: Frames) => void }) {
  const element = useRef<HTMLDivElement>(null)
  const { theme } = useTheme()
  const { data } = useQuery({ queryKey: ['loudness', tape.id], staleTime: Infinity, queryFn: () => fetchChart(tape) })
  const go = useRef(onGo)
  go.current = onGo

  useEffect(() => {
    if (!data) return
    const chart = init(element.current)
    const axis = {
      type: 'value' as const,
      min: 0,
      max: tape.frames,
      axisLine: { lineStyle: { color: colour('rule') } },
      axisTick: { show: false },
      splitLine: { show: false },
    }
    const text = { color: colour('ink-faint'), fontFamily: 'Public Sans Variable', fontSize: 11 }
    const highest = data.wave.reduce((most, [, low, high]) => Math.max(most, high, -low), 0.01)
    chart.setOption({
      animation: false,
      textStyle: text,
      grid: [
        { left: 44, right: 8, top: 30, height: 136 },
        { left: 44, right: 8, top: 180, height: 80 },
      ],
      xAxis: [
        { ...axis, axisLabel: { show: false } },
        { ...axis, gridIndex: 1, splitNumber: 8, axisLabel: { ...text, formatter: (frame: number) => clock(frame).replace(/\.\d$/, '') } },
      ],
      yAxis: [
        {
          type: 'value',
          min: QUIETEST,
          max: 0,
          interval: 15,
          name: 'LUFS',
          nameTextStyle: { ...text, align: 'right', padding: [0, 6, 0, 0] },
          nameGap: 10,
          axisLabel: { ...text, formatter: (value: number) => String(value).replace('-', '−') },
          splitLine: { lineStyle: { color: colour('rule') } },
        },
        { type: 'value', gridIndex: 1, min: -highest, max: highest, show: false },
      ],
      tooltip: {
        trigger: 'axis',
        axisPointer: { type: 'line', lineStyle: { color: colour('cut') } },
        backgroundColor: colour('ink'),
        borderWidth: 0,
        padding: [4, 8],
        textStyle: { ...text, color: colour('paper') },
        formatter: (found: { seriesIndex: number; value: [number, number] }[]) => {
          const point = found.find(({ seriesIndex }) => seriesIndex === 0)
          return point ? `${clock(point.value[0])}  ${point.value[1].toFixed(1).replace('-', '−')} LUFS` : ''
        },
      },
      series: [
        {
          type: 'line',
          data: data.loudness,
          showSymbol: false,
          lineStyle: { color: colour('ink'), width: 1.5 },
          markArea: selected
            ? {
                silent: true,
                itemStyle: { color: colour('tape'), opacity: 0.16 },
                data: [[{ xAxis: selected.from }, { xAxis: selected.to }]],
              }
            : undefined,
        },
        // the wave as a band between its lowest and its highest
        {
          type: 'line',
          xAxisIndex: 1,
          yAxisIndex: 1,
          data: data.wave.map(([at, low]) => [at, low]),
          stack: 'wave',
          stackStrategy: 'all',
          showSymbol: false,
          lineStyle: { opacity: 0 },
          tooltip: { show: false },
        },
        {
          type: 'line',
          xAxisIndex: 1,
          yAxisIndex: 1,
          data: data.wave.map(([at, low, high]) => [at, high - low]),
          stack: 'wave',
          stackStrategy: 'all',
          showSymbol: false,
          lineStyle: { opacity: 0 },
          areaStyle: { color: colour('ink-soft'), opacity: 0.75 },
          tooltip: { show: false },
        },
      ],
    })
    chart.getZr().on('click', ({ offsetX }: { offsetX: number }) => {
      const [frame] = chart.convertFromPixel({ gridIndex: 0 }, [offsetX, 20])
      if (frame >= 0 && frame <= tape.frames) go.current(Math.round(frame))
    })
    return () => chart.dispose()
  }, [data, selected, tape.frames, theme])

  return <div ref={element} className="h-[292px] w-full" role="img" aria-label="Loudness along the tape, with its wave under it" />
}
