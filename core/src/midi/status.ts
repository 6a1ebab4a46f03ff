/** Status nibbles of MIDI 1.0 channel messages, and the controllers that the engine treats by name. */
export const NOTE_OFF = 0x80;
export const NOTE_ON = 0x90;
export const KEY_PRESSURE = 0xa0;
export const CONTROLLER = 0xb0;
export const PROGRAM = 0xc0;
export const PRESSURE = 0xd0;
export const WHEEL = 0xe0;
export const SYSEX = 0xf0;
export const SONG_POSITION = 0xf2;
export const CLOCK = 0xf8;
export const START = 0xfa;
export const CONTINUE = 0xfb;
export const STOP = 0xfc;
export const ACTIVE_SENSING = 0xfe;

export const CC_BANK_MSB = 0;
export const CC_MODULATION = 1;
export const CC_DATA_MSB = 6;
export const CC_LEVEL = 7;
export const CC_PAN = 10;
export const CC_EXPRESSION = 11;
export const CC_BANK_LSB = 32;
export const CC_DATA_LSB = 38;
export const CC_SUSTAIN = 64;
export const CC_SOSTENUTO = 66;
export const CC_SOFT = 67;
export const CC_DATA_UP = 96;
export const CC_DATA_DOWN = 97;
export const CC_NRPN_LSB = 98;
export const CC_RPN_MSB = 101;
export const CC_ALL_SOUND_OFF = 120;
export const CC_RESET_CONTROLLERS = 121;
export const CC_LOCAL = 122;
export const CC_ALL_NOTES_OFF = 123;

/** The wheel at rest, 14 bit. */
export const WHEEL_CENTRE = 8192;
