/** The shapes of a test’s course and of its plan. */
export * from './disturbances';
export * from './gauge-scale';
export * from './instruments';
export * from './phases';
export * from './plan-shape';
export * from './scene';
export * from './sight';
export * from './sight-words';
export * from './weather';
