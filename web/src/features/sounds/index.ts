export { allSounds, indexSounds, soundKey, type FoundSound } from './soundIndex';
