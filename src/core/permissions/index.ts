export * from './actions';
export * from './routes';
