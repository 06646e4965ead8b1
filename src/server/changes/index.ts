export { eventStream } from './event-stream';
export { changesAreTold, closeChanges, hearChanges, type Changes } from './hear';
