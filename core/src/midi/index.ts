export * as midi from './status';
export { controllerName, dataLength, keyName, messageInWords, parseKeyName, type NameStyle } from './names';
