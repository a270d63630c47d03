/** How a picture gets into a size of other proportions. */
export type Fit = 'whole' | 'fill' | 'stretch'

export const FITS: readonly (readonly [Fit, string])[] = [
  ['whole', 'all of it, with clear edges'],
  ['fill', 'filled, the edges cut off'],
  ['stretch', 'stretched'],
]

interface Size {
  readonly width: number
  readonly height: number
}

/** Where a picture is drawn in another size, in pixels of that; parts outside are cut off. */
export function drawnAt(from: Size, to: Size, fit: Fit): Size & { readonly x: number; readonly y: number } {
  const [across, down] = [to.width / from.width, to.height / from.height]
  if (fit === 'stretch') return { x: 0, y: 0, ...to }
  const scale = fit === 'whole' ? Math.min(across, down) : Math.max(across, down)
  const [width, height] = [from.width * scale, from.height * scale]
  return { x: (to.width - width) / 2, y: (to.height - height) / 2, width, height }
}

/** The kinds a browser can write, and what it calls them. */
const WRITES: Readonly<Record<string, string>> = { png: 'image/png', jpg: 'image/jpeg', jpeg: 'image/jpeg', webp: 'image/webp' }

/** The ending a picture is written with, of those that are taken: its own where that is one, PNG before others. */
export function writtenAs(endings: readonly string[], own: string): string | null {
  const able = endings.length === 0 ? Object.keys(WRITES) : endings.filter((ending) => ending in WRITES)
  return able.includes(own) ? own : able.includes('png') ? 'png' : (able[0] ?? null)
}

/** Draws a picture anew in a size and a kind. @throws Error where the browser cannot */
export async function drawAnew(picture: ImageBitmap, size: Size, fit: Fit, ending: string): Promise<Blob> {
  const canvas = new OffscreenCanvas(size.width, size.height)
  const pen = canvas.getContext('2d')
  if (!pen) throw new Error('This browser cannot draw pictures anew. Use another program to resize it.')
  pen.imageSmoothingQuality = 'high'
  const { x, y, width, height } = drawnAt(picture, size, fit)
  pen.drawImage(picture, x, y, width, height)
  return canvas.convertToBlob({ type: WRITES[ending]!, quality: 0.92 })
}

const MAGIC: readonly (readonly [string, RegExp])[] = [
  ['png', /^\x89PNG/],
  ['jpg', /^\xff\xd8\xff/],
  ['gif', /^GIF8/],
  ['webp', /^RIFF[^]{4}WEBP/],
  ['bmp', /^BM/],
]

/** What kind of picture a file is, by its first bytes; null for what is none. */
export function kindOfPicture(bytes: Uint8Array): string | null {
  const head = String.fromCharCode(...bytes.subarray(0, 12))
  return MAGIC.find(([, pattern]) => pattern.test(head))?.[0] ?? null
}

/** A name that any system takes, with another ending. */
export function namedWith(name: string, ending: string): string {
  const bare = name
    .replace(/^.*[\\/]/, '')
    .replace(/\.[^.]*$/, '')
    .replace(/[^\p{L}\p{N}_-]+/gu, '-')
    .replace(/^-+|-+$/g, '')
  return `${bare || 'picture'}.${ending}`
}
