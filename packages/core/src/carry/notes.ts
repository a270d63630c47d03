import type { Entry } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import type { Verdict } from './decide'
import type { Spot } from './patch'
import { wordReasons, type Reason } from './reasons'
import type { Sides } from './sides'
import type { Choice, ChoiceId, Decision, Option, Weight } from './types'

/** A decision whose place in the result is not worked out yet. */
export interface Noted {
  readonly spot: Spot
  readonly decision: Omit<Decision, 'path'>
}

export interface Note {
  readonly id: string
  readonly spot: Spot
  readonly f?: Entry | null | undefined
  readonly m?: Entry | null | undefined
  readonly u?: Entry | null | undefined
  readonly result?: unknown
  readonly options?: readonly Option[]
  readonly confidence?: number | undefined
}

/** The decisions, in the order they were made; what somebody chose asks no more. */
export class Notes {
  readonly all: Noted[] = []

  constructor(
    private readonly sides: Sides,
    private readonly choices: Readonly<Record<string, Choice>>,
  ) {}

  choice(id: string): ChoiceId | undefined {
    return this.choices[id]?.id
  }

  chosenValue(id: string): unknown {
    return this.choices[id]?.value
  }

  add(note: Note, verdict: Pick<Verdict, 'outcome' | 'weight' | 'because'>): void {
    const { f, m, u } = note
    const { sides } = this
    const chosen = this.choice(note.id)
    const file = m ? sides.mine.documentOf(m).file : undefined
    this.push(note.spot, {
      id: note.id,
      outcome: verdict.outcome,
      ...attention(chosen ? null : verdict.weight),
      ...(f ? { factory: sides.json(sides.factory!, f) } : {}),
      ...(m ? { mine: sides.json(sides.mine, m) } : {}),
      ...(u ? { update: sides.json(sides.update, u) } : {}),
      ...('result' in note ? { result: note.result } : {}),
      ...(note.options ? { options: note.options } : {}),
      ...(chosen ? { chosen } : {}),
      ...(note.confidence !== undefined ? { confidence: note.confidence } : {}),
      ...(m ? { from: formatPointer(sides.mine.keys(m)) } : {}),
      ...(file !== undefined ? { fromFile: file } : {}),
      because: verdict.because,
    })
  }

  /** Comments of mine that found no place. */
  lostComment(spot: Spot, id: string, lines: readonly string[], because: Reason): void {
    if (lines.length === 0) return
    this.push(spot, {
      id: `#${id}`,
      outcome: 'kept-aside',
      ...attention('decide'),
      mine: lines.join('\n'),
      comment: true,
      because: [because],
    })
  }

  private push(spot: Spot, decision: Omit<Decision, 'path' | 'reason'>): void {
    this.all.push({ spot, decision: { ...decision, reason: wordReasons(decision.because) } })
  }
}

function attention(weight: Weight | null): { attention: boolean; weight?: Weight } {
  return weight ? { attention: true, weight } : { attention: false }
}
