import type { LevelResult } from '@rackle/core/soundcheck';
import { useAct, useApp, useProving } from '../../state/hooks';
import { jumpWished } from '../../state/uiSlice';
import { Button } from '../../ui/Button';
import { NumberField } from '../../ui/NumberField';
import { Progress } from './Progress';

/** Has every patch of the evening rendered, unheard, and measured; what is wrong of it stands among the findings. */
export function Levels() {
  const levels = useApp(({ checks }) => checks.levels);
  const isDone = useApp(({ checks }) => checks.isDone);
  const jumpLu = useApp(({ ui }) => ui.jumpLu);
  const { start, callOff } = useProving().leveling;
  const act = useAct();
  return (
    <section className="mt-8" aria-label="levels">
      <h2 className="text-[13px] font-bold text-ink2">levels</h2>
      <p className="text-ink2">
        Every step is rendered with a chord on each of its stretches of keys, with both hands at full force, and with
        what was last played. None of it is heard; while you play it waits.
      </p>
      {levels.state === 'running' ? (
        <Progress label="chords measured" done={levels.done} of={levels.of} onCallOff={callOff} />
      ) : (
        <p className="mt-2">
          <Button disabled={!isDone} onClick={start}>
            measure every step
          </Button>
        </p>
      )}
      {levels.state === 'done' && (
        <p className="mt-2" role="status">
          {levels.loudness.length} steps measured: <b>{wordsOf(levels)}</b>{' '}
          {levels.isStale && 'Some of it is new or has been edited: measure again, of that only.'}
        </p>
      )}
      <p className="mt-1">
        A jump is more than{' '}
        <NumberField
          label="a jump in levels"
          value={jumpLu}
          min={1}
          max={40}
          step={1}
          unit=" LU"
          className="mono"
          onChange={(lu) => act(jumpWished(lu))}
        />{' '}
        from one step to the next.
      </p>
    </section>
  );
}

function wordsOf({ loudness, findings }: Pick<LevelResult, 'loudness' | 'findings'>): string {
  if (loudness.length === 0) return 'nothing sounds in this machine.';
  const all = loudness.map(({ lufs }) => lufs);
  const [softest, loudest] = [Math.min(...all), Math.max(...all)].map((lufs) => `−${Math.abs(lufs).toFixed(1)}`);
  const range = `from ${softest} to ${loudest} LUFS`;
  return findings.every(({ severity }) => severity === 'toKnow') ? `${range}, no jump, nothing clips.` : `${range}.`;
}
