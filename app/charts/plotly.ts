import type { Layout } from './stave'

interface Plotly {
  react(element: HTMLElement, traces: readonly object[], layout: Layout, config: object): Promise<unknown>
  purge(element: HTMLElement): void
  register(module: unknown): void
}

let loading: Promise<Plotly> | null = null
let flowing: Promise<Plotly> | null = null

/** The drawing library, with lines and areas only, fetched when the first picture is shown. */
function plotly(): Promise<Plotly> {
  loading ??= import('plotly.js/lib/core').then((module) => module.default as unknown as Plotly)
  return loading
}

/** The same with ribbons, which only pictures of flows need. */
function plotlyWithFlows(): Promise<Plotly> {
  flowing ??= Promise.all([plotly(), import('plotly.js/lib/sankey')]).then(([library, sankey]) => {
    library.register(sankey.default)
    return library
  })
  return flowing
}

/** Draws a picture into an element, or draws it anew. It is still: what can be pressed stands over it as our own markup. */
export async function drawPicture(
  element: HTMLElement,
  traces: readonly object[],
  layout: Layout,
  kind: 'lines' | 'flow' = 'lines',
): Promise<void> {
  const library = await (kind === 'flow' ? plotlyWithFlows() : plotly())
  if (element.isConnected) await library.react(element, traces, layout, { staticPlot: true, displayModeBar: false })
}

/** Lets go of what was drawn. */
export async function clearPicture(element: HTMLElement): Promise<void> {
  if (loading) (await loading).purge(element)
}

/** The paint of a name as the page has it just now. */
export function paintsIn(element: HTMLElement): (name: string) => string {
  const style = getComputedStyle(element)
  return (name) => style.getPropertyValue(name).trim()
}
