/** Gain of a level in dB. */
export const gainOf = (db: number): number => 10 ** (db / 20);

/** Lowest place of a fader, in dB: nothing goes through there. */
export const FADER_DOWN_DB = -60;

/** Gain of a fader: as its level says, and nothing at its lowest place. */
export const faderGain = (levelDb: number): number => (levelDb <= FADER_DOWN_DB ? 0 : gainOf(levelDb));

/** What everything goes through at the level of 0 dB. */
export const MASTER = 0.9;
