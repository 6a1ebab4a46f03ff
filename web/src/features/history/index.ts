export { asItWasPath } from './asItWasPath';
export { HistoryPage } from './HistoryPage';
export { pastAt, type Past } from './historyApi';
export { pastStore } from './pastStore';
export { thingKey } from './thingKey';
export { useBringBack } from './useBringBack';
export { useFetched } from './useFetched';
