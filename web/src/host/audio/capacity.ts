import { RECIPES } from './recipes';
import { Strip, type Buses } from './strip';

const VOICES = 24;
const SECONDS = 0.5;
/** A machine that is asked for more than this of itself may drop out when something else wants it too. */
const SAFE_SHARE = 0.6;

/**
 * How many voices of a usual preset this machine can sound at once, measured by rendering some of them as fast as it
 * goes.
 * @param busesOn gives a buses in an offline context.
 */
export async function measureVoices(
  busesOn: (context: OfflineAudioContext) => Buses,
  now: () => number,
): Promise<number> {
  const context = new OfflineAudioContext(2, Math.round(44_100 * SECONDS), 44_100);
  const buses = busesOn(context);
  const strip = new Strip(
    { kind: 'recipe', recipe: RECIPES['causeway/late-boat'], effects: [] },
    buses,
    'measure',
    120,
  );
  strip.balance(-20, 0, 0, 0, 0);
  for (let i = 0; i < VOICES; i++) strip.noteOn(0, 36 + i * 2, 90);
  const started = now();
  await context.startRendering();
  const tookS = Math.max(0.001, (now() - started) / 1000);
  return Math.max(VOICES, Math.round((VOICES * SECONDS * SAFE_SHARE) / tookS));
}
