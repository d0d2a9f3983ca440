/** Finding the leak. */
export * from './isolation-plan';
export * from './likelihood';
export { airToListen, type Loudest, listenedTo, listeningMethods, loudestOf, readSpot, type Spot, spotsOf } from './listening';
export * from './search-log';
export * from './sections';
