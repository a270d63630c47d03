import { heightOf } from './row-shapes'

/** Files with fewer rows are drawn whole, so that the browser's own search finds everything in them. */
export const DRAWN_WHOLE = 400
const BEYOND = 30

/** Where rows of different heights stand: heights are guessed by shape, and known of those that were drawn. */
export class RowPlaces {
  private tops = new Float64Array(1)
  private heights = new Float32Array(0)
  private shapes: Uint8Array = new Uint8Array(0)

  get count(): number {
    return this.shapes.length
  }

  /** Takes the shapes of all rows; what was measured stays where the shape is the same. */
  take(shapes: Uint8Array): void {
    const old = { shapes: this.shapes, heights: this.heights }
    this.shapes = shapes
    this.heights = new Float32Array(shapes.length)
    for (let i = 0; i < shapes.length; i++) this.heights[i] = old.shapes[i] === shapes[i] ? old.heights[i]! : heightOf(shapes[i]!)
    this.sum()
  }

  /** Takes measured heights by position. @returns whether any was another than thought */
  measure(measured: Iterable<readonly [number, number]>): boolean {
    let changed = false
    for (const [index, height] of measured) {
      if (index >= this.count || Math.abs(this.heights[index]! - height) < 0.5) continue
      this.heights[index] = height
      changed = true
    }
    if (changed) this.sum()
    return changed
  }

  private sum(): void {
    this.tops = new Float64Array(this.count + 1)
    for (let i = 0; i < this.count; i++) this.tops[i + 1] = this.tops[i]! + this.heights[i]!
  }

  get total(): number {
    return this.tops[this.count] ?? 0
  }

  topOf(index: number): number {
    return this.tops[Math.max(0, Math.min(index, this.count))] ?? 0
  }

  heightAt(index: number): number {
    return this.heights[index] ?? 0
  }

  /** The row at a height, the last one below all. */
  at(y: number): number {
    let low = 0
    let high = Math.max(0, this.count - 1)
    while (low < high) {
      const middle = (low + high + 1) >> 1
      if (this.tops[middle]! <= y) low = middle
      else high = middle - 1
    }
    return low
  }

  /** The rows to draw for a stretch that is seen, with some beyond it. */
  window(top: number, height: number): { from: number; to: number } {
    if (this.count <= DRAWN_WHOLE) return { from: 0, to: DRAWN_WHOLE }
    // in steps, so that scrolling a little asks for nothing
    const from = Math.max(0, Math.floor((this.at(top) - BEYOND) / 10) * 10)
    return { from, to: Math.min(this.count, Math.ceil((this.at(top + height) + BEYOND) / 10) * 10) }
  }
}
