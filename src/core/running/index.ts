export { type Ask, mayStartNow, type Present, present, readingsOf } from './present';
