export { CheckEnded, Checkers, type CheckWatch } from './checkers'
export { lookIntoAll, type CheckAnswer, type CheckRequest } from './looking'
