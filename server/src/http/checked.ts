import type { z } from 'zod';
import { Problem } from './problem';

/** What came in, as its schema reads it. @throws Problem `invalid`, with the first thing that is wrong */
export function checked<T>(schema: z.ZodType<T>, input: unknown): T {
  const parsed = schema.safeParse(input);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  const path = issue.path.map((step) => (typeof step === 'number' ? step : String(step)));
  throw new Problem(
    'invalid',
    `${path.join(' → ') || 'the request'}: ${issue.message.slice(0, 200)}. Nothing was changed.`,
    path,
  );
}
