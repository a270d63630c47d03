import { Readable } from 'node:stream'
import { buffer } from 'node:stream/consumers'
import type { ReadableStream as WebStream } from 'node:stream/web'
import type { Logger } from 'pino'
import { array, lazy, object, string } from 'yup'
import { ServiceError } from './errors'
import { upTo, writeParts } from './parts'
import { SIZES } from './sizes'

export interface SiteOffer {
  readonly name: string
  readonly version: string
  readonly summary: string
  readonly game: string
  /** The family it is for; empty where the site does not say. */
  readonly family: string
  /** Ranges of versions by name. */
  readonly requires: Readonly<Record<string, string>>
  readonly optional: Readonly<Record<string, string>>
  readonly conflicts: Readonly<Record<string, string>>
  readonly companions: Readonly<Record<string, string>>
  readonly link: string
}

/** What one plugin site has, or why that is not known. */
export interface SiteState {
  readonly origin: string
  /** `asking`: it has not answered yet; what it said before stays until it does. */
  readonly status: 'asking' | 'answered' | 'failed'
  /** What went wrong; empty for nothing. */
  readonly problem: string
  readonly offers: readonly SiteOffer[]
}

const rangesSchema = lazy((value: unknown) =>
  object(Object.fromEntries(Object.keys(value ?? {}).map((name) => [name, string().required().max(200)]))).default({}),
)

/** One package in the list a plugin site gives of what it has. */
const offerSchema = object({
  name: string().required().max(100),
  version: string().required().max(100),
  summary: string().default('').max(1000),
  game: string().default('').max(100),
  family: string().default('').max(100),
  requires: rangesSchema,
  optional: rangesSchema,
  conflicts: rangesSchema,
  companions: rangesSchema,
  link: string().required().max(2000),
})

const HEADERS_WITHIN_MS = 10_000
const SILENCE_MS = 15_000
const LIST_WITHIN_MS = 30_000
const PACKAGE_WITHIN_MS = 10 * 60_000
/** How long an answer counts before the site is asked again. */
const FRESH_MS = 60_000
const MOST_OFFERS = 5000

/** What the plugin sites offer, asked in the background: a slow one holds nobody's page. */
export class SiteOffers {
  private readonly known = new Map<string, SiteState>()
  private readonly asked = new Map<string, { readonly at: number; readonly done: Promise<void> }>()

  constructor(
    private readonly sites: readonly string[],
    private readonly log: Logger,
  ) {}

  /** What is known of each site now; those not asked for a while are asked, and a first answer is waited for a moment. */
  async list(waitMs = 400): Promise<SiteState[]> {
    for (const site of this.sites) if (this.isDue(site)) this.ask(site)
    const first = this.sites.filter((site) => this.known.get(site)!.offers.length === 0).map((site) => this.asked.get(site)!.done)
    if (first.length > 0) await Promise.race([Promise.all(first), new Promise((resolve) => setTimeout(resolve, waitMs))])
    return this.sites.map((site) => this.known.get(site)!)
  }

  private isDue(site: string): boolean {
    const asked = this.asked.get(site)
    return !asked || (this.known.get(site)?.status !== 'asking' && performance.now() - asked.at > FRESH_MS)
  }

  private ask(origin: string): void {
    const before = this.known.get(origin)
    this.known.set(origin, { origin, status: 'asking', problem: '', offers: before?.offers ?? [] })
    const done = this.offersOf(origin).then(
      (offers) => void this.known.set(origin, { origin, status: 'answered', problem: '', offers }),
      (error: unknown) => {
        this.log.warn({ site: origin, error }, 'the plugin site does not answer')
        const problem = error instanceof ServiceError ? error.message : `${origin} gave no list that can be read.`
        this.known.set(origin, { origin, status: 'failed', problem, offers: before?.offers ?? [] })
      },
    )
    this.asked.set(origin, { at: performance.now(), done })
  }

  private async offersOf(site: string): Promise<SiteOffer[]> {
    const answer = await buffer(fetchParts(new URL('/index.json', site), { most: SIZES.siteList, withinMs: LIST_WITHIN_MS }))
    const list = await array()
      .required()
      .validate(JSON.parse(answer.toString('utf8')))
    // one that is not right keeps the others from nobody
    return list.slice(0, MOST_OFFERS).flatMap((offer) => {
      if (!offerSchema.isValidSync(offer)) return []
      const { link, ...about } = offerSchema.cast(offer)
      return URL.canParse(link, site) ? [{ ...about, link: new URL(link, site).href }] : []
    })
  }
}

/** Fetches a package into a file that is not there yet. @throws ServiceError `bad-link`, `too-large` */
export async function fetchPackage(url: URL, file: string): Promise<void> {
  await writeParts(fetchParts(url, { most: SIZES.package, withinMs: PACKAGE_WITHIN_MS }), file)
}

interface Bounds {
  /** Bytes, unpacked where the site packs its answers. */
  readonly most: number
  readonly withinMs: number
}

/** The parts of an answer, given up on when there are too many, or none for too long. No redirect is followed. */
async function* fetchParts(url: URL, bounds: Bounds): AsyncGenerator<Uint8Array> {
  const stop = new AbortController()
  const whole = setTimeout(() => stop.abort(), bounds.withinMs)
  let silence = setTimeout(() => stop.abort(), HEADERS_WITHIN_MS)
  try {
    const response = await fetch(url, { redirect: 'error', signal: stop.signal })
    if (!response.ok || !response.body)
      throw new ServiceError('bad-link', 502, `The plugin site answered ${response.status} for ${url.pathname}. Check the link.`)
    if (Number(response.headers.get('content-length') ?? 0) > bounds.most) throw tooLarge(url, bounds.most)
    const source = Readable.fromWeb(response.body as WebStream, { signal: stop.signal })
    for await (const part of upTo(source, bounds.most, () => tooLarge(url, bounds.most))) {
      clearTimeout(silence)
      silence = setTimeout(() => stop.abort(), SILENCE_MS)
      yield part
    }
  } catch (error) {
    if (error instanceof ServiceError) throw error
    throw new ServiceError('bad-link', 502, `${url.origin} did not answer, or not to the end. Check that it is up, and try again.`, {
      cause: error,
    })
  } finally {
    clearTimeout(silence)
    clearTimeout(whole)
    // one that was given up on is not read on
    stop.abort()
  }
}

const tooLarge = (url: URL, most: number): ServiceError =>
  new ServiceError('too-large', 413, `${url.pathname} is over ${most / 1024 / 1024} MB, and that much is not taken.`)
