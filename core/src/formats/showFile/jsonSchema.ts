import { z } from 'zod';
import { Show } from '../../show';

/** JSON Schema (2020-12) of the show file as it may be written: what has a default may be left out. */
export const showJsonSchema = (): object => z.toJSONSchema(Show, { io: 'input', unrepresentable: 'any' });
