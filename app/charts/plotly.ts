import type { Layout, Trace } from './stave'

interface Plotly {
  react(element: HTMLElement, traces: readonly Trace[], layout: Layout, config: object): Promise<unknown>
  purge(element: HTMLElement): void
}

let loading: Promise<Plotly> | null = null

/** The drawing library, with lines and areas only, fetched when the first picture is shown. */
function plotly(): Promise<Plotly> {
  loading ??= import('plotly.js/lib/core').then((module) => module.default as unknown as Plotly)
  return loading
}

/** Draws a picture into an element, or draws it anew. It is still: what can be pressed stands over it as our own markup. */
export async function drawPicture(element: HTMLElement, traces: readonly Trace[], layout: Layout): Promise<void> {
  const library = await plotly()
  if (element.isConnected) await library.react(element, traces, layout, { staticPlot: true, displayModeBar: false })
}

/** Lets go of what was drawn. */
export async function clearPicture(element: HTMLElement): Promise<void> {
  if (loading) (await loading).purge(element)
}
