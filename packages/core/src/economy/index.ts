export { amountFor, hoursToAfford, priceFor, withAmount } from './afford'
export {
  LIKES,
  NOTHING_ASSUMED,
  NOTHING_SEEN,
  fitKinds,
  type Assumed,
  type AssumedGoal,
  type AssumedKind,
  type FittedKind,
  type Known,
  type Like,
  type Origin,
  type Seen,
} from './assume'
export { boxOf, isFar, quantile, type Box } from './box'
export { EndlessDraw, chancesIn, drawShares, triesUntil, type Drawn, type Tables } from './chance'
export { economyOf, type Doing, type Economy, type Moving } from './derive'
export { flowOf, movedBy, movedByAll, type Flow, type Ribbon } from './flow'
export { groupedFlow, type FlowGroup, type GroupedFlow, type Sums } from './flow-groups'
export { NO_ECONOMY, economyFacts, withPart, type EconomyFacts, type EconomyPart, type GatheredStream, type MoneyFile } from './gather'
export { valueFor } from './goal'
export { onlineOf, timesAnHour, type Kind, type Stream } from './model'
export { movers, type Mover } from './moves'
export { liveAll, outlookOf, type Outlook, type Spread } from './outlook'
export {
  WALK_SECONDS,
  mendsOf,
  priceBook,
  priceOf,
  unitPrice,
  type LoopMend,
  type MoneyLoop,
  type Offer,
  type PriceBook,
  type PriceRow,
} from './prices'
export { randomFrom, type Random } from './random'
export { accountsSeen, balancesIn, doneADay } from './records'
export { reckonedOf, type FlowingStream, type Quote, type QuotedItem, type Reckoned, type ToReckon } from './reckoned'
export { simulate, type DayEnd, type Goal, type Plan, type Reached, type Run } from './simulate'
export { offersOf, type GatheredOffer } from './offers'
export { SURE, drawTables, worthOfDraw, worthOfEntry, type DrawTable, type Outcome, type TableEntry } from './tables'
export { unpriced, valuedDeals, worthIn, type ValuedDeal, type Worth } from './worth'
export { firstDayOf, firstGoals, goalPrice, thingsOf, type FirstDay, type Thing } from './things'
