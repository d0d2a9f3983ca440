export { type Ask, holdNow, mayStartNow, type Present, present, readingsOf } from './present';
