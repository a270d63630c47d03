import type { Outlook } from '@pasticcio/core'
import type { Layout } from './stave'

export interface DaysLine {
  readonly version: 'today' | 'draft' | 'update'
  readonly outlook: Outlook
}

const PAINTS = {
  today: { line: '--yours-edge', fill: '--fill-yours', dash: 'solid' },
  draft: { line: '--crust', fill: '--fill-factory', dash: 'solid' },
  update: { line: '--update', fill: '--wash-update', dash: 'dash' },
} as const

/** All money over the days: for each version the middle of its runs, and the band in which eight of ten lie. */
export function daysTraces(
  lines: readonly DaysLine[],
  { width, height }: { readonly width: number; readonly height: number },
  paint: (name: string) => string,
): { readonly traces: readonly object[]; readonly layout: Layout } {
  const most = Math.max(1, ...lines.flatMap(({ outlook }) => outlook.supply.map(({ high }) => high)))
  const days = Math.max(1, ...lines.map(({ outlook }) => outlook.supply.length - 1))
  const traces = lines.flatMap(({ version, outlook: { supply } }) => {
    const { line, fill, dash } = PAINTS[version]
    const x = supply.map((_day, i) => i)
    const bare = { type: 'scatter', mode: 'lines', x, hoverinfo: 'skip' }
    const edge = { color: paint(line), width: 0.6 }
    return [
      { ...bare, y: supply.map(({ low }) => low), line: edge },
      { ...bare, y: supply.map(({ high }) => high), line: edge, fill: 'tonexty', fillcolor: paint(fill) },
      { ...bare, y: supply.map(({ middle }) => middle), line: { color: paint(line), width: 1.6, dash } },
    ]
  })
  const text = { family: getFamily(paint), size: 12, color: paint('--muted') }
  const axis = { fixedrange: true, tickfont: text, zeroline: false, showline: false, ticks: '' }
  const ticks = dayTicks(days)
  return {
    traces,
    layout: {
      width,
      height,
      margin: { l: 44, r: 26, t: 6, b: 18, pad: 0 },
      paper_bgcolor: 'transparent',
      plot_bgcolor: 'transparent',
      showlegend: false,
      xaxis: {
        ...axis,
        range: [0, days],
        showgrid: false,
        tickvals: ticks,
        ticktext: ticks.map((day) => (day === 0 ? 'now' : day === days ? `day ${day}` : String(day))),
      },
      yaxis: { ...axis, range: [0, most * 1.05], gridcolor: paint('--hairline'), nticks: 4, tickformat: '~s' },
    },
  }
}

const getFamily = (paint: (name: string) => string): string => paint('--sans') || 'sans-serif'

/** Now, the last day, and a few between them. */
export function dayTicks(days: number): number[] {
  const step = days <= 10 ? 2 : days <= 45 ? 7 : 14 * Math.ceil(days / 60)
  const between = Array.from({ length: Math.max(0, Math.ceil(days / step) - 1) }, (_x, i) => (i + 1) * step).filter(
    (day) => days - day >= step / 2,
  )
  return [0, ...between, days]
}
