/** The lines of a piece of text, without the indentation its first line has. */
export function dedent(piece: string, column: number): string[] {
  return piece.split(/\r\n|\r|\n/).map((line, i) => (i === 0 ? line : line.slice(Math.min(column, /^[ \t]*/.exec(line)![0].length))))
}
