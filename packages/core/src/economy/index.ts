export { boxOf, isFar, quantile, type Box } from './box'
export { EndlessDraw, chancesIn, drawShares, triesUntil, worthOf, type Drawn, type Tables } from './chance'
export { flowOf, leverages, movedBy, type Flow, type Leverage, type Ribbon } from './flow'
export { hoursUntil, valueFor } from './goal'
export { timesAnHour, type Kind, type Stream } from './model'
export {
  WALK_SECONDS,
  mendsOf,
  priceBook,
  unitPrice,
  type LoopMend,
  type MoneyLoop,
  type Offer,
  type PriceBook,
  type PriceRow,
} from './prices'
export { randomFrom, type Random } from './random'
export { simulate, type DayEnd, type Goal, type Plan, type Reached, type Run } from './simulate'
export { offersOf, type GatheredOffer } from './offers'
