/** Status nibbles of MIDI 1.0 channel messages, and the controllers that the engine treats by name. */
export const NOTE_OFF = 0x80;
/** The velocity of a note-off that says none. */
export const RELEASE_UNSAID = 64;
/** Status without its channel; a velocity of 0 is a note-off. */
export const NOTE_ON = 0x90;
/** Pressure of one key (polyphonic). */
export const KEY_PRESSURE = 0xa0;
/** Control change. */
export const CONTROLLER = 0xb0;
/** Program change. */
export const PROGRAM = 0xc0;
/** Pressure of a channel. */
export const PRESSURE = 0xd0;
/** Pitch bend, 14 bit, LSB first. */
export const WHEEL = 0xe0;
/** System exclusive. */
export const SYSEX = 0xf0;
/** In sixteenths from the start, 14 bit. */
export const SONG_POSITION = 0xf2;
/** 24 a quarter note. */
export const CLOCK = 0xf8;
/** From the beginning, with the next clock. */
export const START = 0xfa;
/** From where it stands, with the next clock. */
export const CONTINUE = 0xfb;
/** The clock goes on or not; the position stays. */
export const STOP = 0xfc;
/** At least every 300 ms, once it has begun. */
export const ACTIVE_SENSING = 0xfe;

/** Bank, upper seven bits. */
export const CC_BANK_MSB = 0;
/** The modulation wheel. */
export const CC_MODULATION = 1;
/** Data entry for the parameter that is selected. */
export const CC_DATA_MSB = 6;
/** Channel volume. */
export const CC_LEVEL = 7;
/** 64 is the middle. */
export const CC_PAN = 10;
/** A share of the channel volume. */
export const CC_EXPRESSION = 11;
/** Bank, lower seven bits. */
export const CC_BANK_LSB = 32;
/** Lower seven bits of data entry. */
export const CC_DATA_LSB = 38;
/** Damper pedal: down from 64. */
export const CC_SUSTAIN = 64;
/** Holds what is down when it goes down. */
export const CC_SOSTENUTO = 66;
/** Soft pedal. */
export const CC_SOFT = 67;
/** Data increment. */
export const CC_DATA_UP = 96;
/** Data decrement. */
export const CC_DATA_DOWN = 97;
/** Lowest of the four that select a parameter (98–101). */
export const CC_NRPN_LSB = 98;
/** Highest of the four that select a parameter. */
export const CC_RPN_MSB = 101;
/** Channel mode: voices end at once. */
export const CC_ALL_SOUND_OFF = 120;
/** Channel mode: controllers go to rest (RP-015). */
export const CC_RESET_CONTROLLERS = 121;
/** Channel mode: local control. */
export const CC_LOCAL = 122;
/** Channel mode: keys go up; pedals still hold. */
export const CC_ALL_NOTES_OFF = 123;

/** The wheel at rest, 14 bit. */
export const WHEEL_CENTRE = 8192;
