export * as midi from './status';
export { controllerName, dataLength, keyName, messageInWords, parseKeyName, type NameStyle } from './names';
export { packed, unpacked, type PackedMessage, type PackedMessages } from './packed';
