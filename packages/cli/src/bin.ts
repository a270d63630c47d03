import { main } from './main'

const { stdout, stderr } = process
/** One line that is written over, and gone at the end. */
const overwrite = (text: string): void => void stderr.write(`\r\u001b[K${text}`)

process.exitCode = await main(process.argv.slice(2), {
  out: (text) => void stdout.write(text),
  err: (text) => void stderr.write(text),
  ...(stderr.isTTY ? { progress: overwrite } : {}),
})
