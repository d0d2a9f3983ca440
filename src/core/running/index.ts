export { bandAdvice, bandWords, closingWords } from './advance';
export { cameTo, type FallSoFar, fallSoFar, fallWords, lastCame } from './came';
export { type OccupierNews, occupierNews, occupierWords } from './occupier';
export { type Ask, holdNow, mayStartNow, openPhases, type Present, present, readingsOf } from './present';
export { rateSoFar } from './rate';
