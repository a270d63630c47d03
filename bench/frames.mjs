/**
 * Does something on a page in each frame for three seconds. @param act runs on the page, with the number of the frame
 * @returns frames a second, and the longest one, in words
 */
export async function framesOn(page, act) {
  const told = await page.evaluate(async (source) => {
    window.press = (key) => document.activeElement.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }))
    const step = new Function(`return (${source})`)()
    const times = []
    for (let last = await new Promise(requestAnimationFrame), i = 0; times.reduce((a, b) => a + b, 0) < 3000; i++) {
      step(i)
      const now = await new Promise(requestAnimationFrame)
      times.push(now - last)
      last = now
    }
    return { count: times.length, took: times.reduce((a, b) => a + b, 0), longest: Math.max(...times) }
  }, String(act))
  return `${((1000 * told.count) / told.took).toFixed(1)} frames a second, the longest ${Math.round(told.longest)} ms`
}
