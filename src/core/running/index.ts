export { type Ask, holdNow, mayStartNow, openPhases, type Present, present, readingsOf } from './present';
