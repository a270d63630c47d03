interface Place {
  readonly from: number
  readonly to: number
}

/** What reaches over more letters than this is looked at for each place; there are few of such. */
const WIDE = 1000

/** Findings of one file, looked up by the place they touch, however many there are. */
export class FindingsAt<F extends Place> {
  private readonly narrow: readonly F[]
  private readonly wide: readonly F[]

  constructor(findings: readonly F[]) {
    const isWide = ({ from, to }: F): boolean => to - from > WIDE
    this.narrow = findings.filter((finding) => !isWide(finding)).sort((a, b) => a.from - b.from)
    this.wide = findings.filter(isWide)
  }

  /** Those that touch a place, in the order of the file; an empty place is as wide as one letter. */
  at({ from, to }: Place): F[] {
    const end = Math.max(to, from + 1)
    const found = this.wide.filter((finding) => touches(finding, from, end))
    for (let i = this.firstFrom(from - WIDE); i < this.narrow.length && this.narrow[i]!.from < end; i++)
      if (touches(this.narrow[i]!, from, end)) found.push(this.narrow[i]!)
    return found.sort((a, b) => a.from - b.from)
  }

  private firstFrom(at: number): number {
    let [low, high] = [0, this.narrow.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (this.narrow[middle]!.from < at) low = middle + 1
      else high = middle
    }
    return low
  }
}

const touches = (finding: Place, from: number, end: number): boolean => finding.from < end && finding.to >= from
