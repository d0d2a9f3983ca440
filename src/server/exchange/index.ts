export * from './jobs';
export { ExchangeFault } from './manifest';
export { isEmptyFirm, readExport } from './read';
export { unsealedWords, writeExport } from './write';
