import { buffer } from 'node:stream/consumers'
import type { Logger } from 'pino'
import { array, lazy, number, object, string } from 'yup'
import type { SiteRow } from '../db/repositories/sites'
import { ServiceError } from './errors'
import { fetchParts } from './fetching'
import { SIZES } from './sizes'

export interface SiteOffer {
  readonly name: string
  readonly version: string
  readonly summary: string
  readonly game: string
  /** The family it is for; empty where the site does not say. */
  readonly family: string
  readonly authors: readonly string[]
  /** Ranges of versions by name. */
  readonly requires: Readonly<Record<string, string>>
  readonly optional: Readonly<Record<string, string>>
  readonly conflicts: Readonly<Record<string, string>>
  readonly companions: Readonly<Record<string, string>>
  readonly link: string
  /** Bytes; null where the site does not say, as below. */
  readonly size: number | null
  /** The hash of the file, in small letters. */
  readonly sha256: string | null
  /** What changed in this version, and what there is to read of it, in Markdown. */
  readonly changelog: string
  readonly readme: string
}

/** An offer as it stands in lists: what there is to read of it is asked for by itself. */
export type ListedOffer = Omit<SiteOffer, 'changelog' | 'readme'> & { readonly hasNotes: boolean }

export const listed = ({ changelog, readme, ...offer }: SiteOffer): ListedOffer => ({
  ...offer,
  hasNotes: changelog !== '' || readme !== '',
})

/** What one plugin site has, or why that is not known. */
export interface SiteState extends SiteRow {
  /** `asking`: it has not answered yet; what it said before stays until it does. */
  readonly status: 'asking' | 'answered' | 'failed'
  /** What went wrong; empty for nothing. */
  readonly problem: string
  /** How many packages of its list were passed over, since they are not right. */
  readonly passedOver: number
  readonly offers: readonly SiteOffer[]
}

const rangesSchema = lazy((value: unknown) =>
  object(Object.fromEntries(Object.keys(value ?? {}).map((name) => [name, string().required().max(200)]))).default({}),
)

/** One package in the list a plugin site gives of what it has; docs/plugin-sites.md explains each part. */
const offerSchema = object({
  name: string().required().max(100),
  version: string().required().max(100),
  summary: string().default('').max(1000),
  game: string().default('').max(100),
  family: string().default('').max(100),
  authors: array(string().required().max(100)).max(50).default([]),
  requires: rangesSchema,
  optional: rangesSchema,
  conflicts: rangesSchema,
  companions: rangesSchema,
  link: string().required().max(2000),
  size: number().integer().min(0).nullable().default(null),
  sha256: string()
    .lowercase()
    .matches(/^[0-9a-f]{64}$/i)
    .nullable()
    .default(null),
  changelog: string().default('').max(20_000),
  readme: string().default('').max(100_000),
})
/** A site's list: the packages alone, or with what may come to be said of the whole beside them. */
const listSchema = lazy((value: unknown) =>
  Array.isArray(value) ? array().required() : object({ packages: array().required() }).required(),
)

const LIST_WITHIN_MS = 30_000
/** How long an answer counts before the site is asked again. */
const FRESH_MS = 60_000
const MOST_OFFERS = 5000

/** What the plugin sites offer, asked in the background: a slow one holds nobody's page. */
export class SiteOffers {
  private readonly known = new Map<string, SiteState>()
  private readonly asked = new Map<string, { readonly at: number; readonly done: Promise<void> }>()

  /** @param sites gives the sites there are by now */
  constructor(
    private readonly sites: () => Promise<readonly SiteRow[]>,
    private readonly log: Logger,
  ) {}

  /** What is known of each site now; those not asked for a while are asked, and a first answer is waited for a moment. */
  async list(waitMs = 400): Promise<SiteState[]> {
    const sites = await this.sites()
    for (const site of sites) if (this.isDue(site)) this.ask(site)
    const first = sites
      .filter(({ address }) => this.known.get(address)!.offers.length === 0)
      .map(({ address }) => this.asked.get(address)!.done)
    if (first.length > 0) await Promise.race([Promise.all(first), new Promise((resolve) => setTimeout(resolve, waitMs))])
    return sites.map((site) => ({ ...this.known.get(site.address)!, ...site }))
  }

  /** What is offered at a link, as far as sites were asked. */
  async at(link: string): Promise<SiteOffer | null> {
    const sites = await this.sites()
    return sites.flatMap(({ address }) => this.known.get(address)?.offers ?? []).find((offer) => offer.link === link) ?? null
  }

  /** Asks a site anew the next time, whenever it was asked last. */
  forget(address: string): void {
    this.asked.delete(address)
    this.known.delete(address)
  }

  private isDue({ address }: SiteRow): boolean {
    const asked = this.asked.get(address)
    return !asked || (this.known.get(address)?.status !== 'asking' && performance.now() - asked.at > FRESH_MS)
  }

  private ask(site: SiteRow): void {
    const { address } = site
    const { offers: before = [], passedOver = 0 } = this.known.get(address) ?? {}
    this.known.set(address, { ...site, status: 'asking', problem: '', offers: before, passedOver })
    const done = offersOf(site).then(
      (answer) => void this.known.set(address, { ...site, status: 'answered', problem: '', ...answer }),
      (error: unknown) => {
        this.log.warn({ site: address, error }, 'the plugin site does not answer')
        const problem = error instanceof ServiceError ? error.message : `${address} gave no list that can be read.`
        this.known.set(address, { ...site, status: 'failed', problem, offers: before, passedOver })
      },
    )
    this.asked.set(address, { at: performance.now(), done })
  }
}

/** The address a site's list stands below. */
const baseOf = (address: string): string => (address.endsWith('/') ? address : `${address}/`)

async function offersOf({ address, mayBePrivate }: SiteRow): Promise<Pick<SiteState, 'offers' | 'passedOver'>> {
  const base = baseOf(address)
  const bounds = { most: SIZES.siteList, withinMs: LIST_WITHIN_MS, mayBePrivate: () => mayBePrivate }
  const answer = await buffer(fetchParts(new URL('index.json', base), bounds))
  const list = (await listSchema.validate(JSON.parse(answer.toString('utf8')))) as unknown[] | { packages: unknown[] }
  const packages = (Array.isArray(list) ? list : list.packages).slice(0, MOST_OFFERS)
  // one that is not right keeps the others from nobody
  const offers = packages.flatMap((offer) => {
    if (!offerSchema.isValidSync(offer)) return []
    const { link, ...about } = offerSchema.cast(offer)
    return URL.canParse(link, base) ? [{ ...about, link: new URL(link, base).href } as SiteOffer] : []
  })
  return { offers, passedOver: packages.length - offers.length }
}
