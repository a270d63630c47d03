/** The library's core has no types of its own; plotly.ts says what we use of it. */
declare module 'plotly.js/lib/core'
declare module 'plotly.js/lib/sankey'
