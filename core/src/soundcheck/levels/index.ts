export { CLIPS_DB, LevelCheck, type LevelResult, type PatchLoudness, type PlayedKey } from './levelCheck';
export { takeKey, type LevelMeasured, type LevelTake, type TakeLayer, type TakeMessage } from './take';
