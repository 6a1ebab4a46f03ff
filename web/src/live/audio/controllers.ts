import { midi } from '@rackle/core';

export const { CC_EXPRESSION, CC_MODULATION, CC_SUSTAIN } = midi;
