export { addressFrom, addressNumber, numberInPlayingOrder, programConflicts, programText, sameTarget, targetsInOrder } from './programMap';
