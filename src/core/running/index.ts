export { type Ask, type Present, present, readingsOf } from './present';
