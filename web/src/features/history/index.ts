export { asItWasPath, presentPath } from './asItWasPath';
export { HistoryPage } from './HistoryPage';
export { pastAt, type Past } from './historyApi';
export { pastStore } from './pastStore';
export { markedItem } from './thingKey';
export { useBringBack } from './useBringBack';
export { useFetched } from './useFetched';
