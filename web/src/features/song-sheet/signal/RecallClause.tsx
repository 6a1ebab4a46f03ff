import { assertNever } from '@rackle/core/result';
import type { Layer } from '@rackle/core/show';
import { Choice, type ChoiceItem } from '../../../ui/Choice';
import { NumberField } from '../../../ui/NumberField';
import type { Signal } from './signal';

const USUAL = '-';
const FIRST_FADE_MS = 1500;

/** What becomes of its notes at a recall, and of new ones while its sound is not ready. */
export function RecallClause({ layer, blend, live, outboard, known, setLayer }: Signal) {
  const { carry } = layer;
  return (
    <p className="mt-2 border-t border-rule pt-1 text-ink2">
      At a recall its held notes{' '}
      <Choice
        label="carry"
        value={carry.kind}
        items={[
          { value: 'hold', label: 'hold until released' },
          { value: 'fade', label: 'fade' },
          { value: 'cut', label: 'are cut' },
        ]}
        onChange={(kind) =>
          setLayer('change the carry', { carry: kind === 'fade' ? { kind, fadeMs: FIRST_FADE_MS } : { kind } })
        }
      />
      {carry.kind === 'fade' && (
        <>
          {' '}
          over{' '}
          <NumberField
            label="fade time"
            value={carry.fadeMs}
            min={0}
            max={60_000}
            step={100}
            unit=" ms"
            onChange={(fadeMs) => setLayer('change the fade', { carry: { kind: 'fade', fadeMs } })}
          />
        </>
      )}
      .
      {!live && (
        <>
          {' '}
          While it is not ready, new notes{' '}
          <Choice
            label="while it is not ready"
            value={layer.notReady ?? USUAL}
            items={notReadyItems(outboard !== null)}
            onChange={(value) =>
              setLayer('change what it does while it is not ready', { notReady: value === USUAL ? null : value })
            }
          />
          .{' '}
          {outboard
            ? `${outboard.name} takes ${outboard.switchMs} ms to switch.`
            : known &&
              (known.memoryMb === 0
                ? `${known.name} is made as it is played: nothing has to be loaded.`
                : `${known.name} takes ${known.memoryMb} MB and ${known.loadMs} ms to load.`)}
        </>
      )}
      {blend && (
        <>
          {' '}
          Level, pan, mute, sends, what the sound and its effects are set to, and articulation belong to the blend “
          {blend.name}”; what differs from the patch is underlined.
        </>
      )}
    </p>
  );
}

function notReadyItems(isOutboard: boolean): ChoiceItem<NonNullable<Layer['notReady']> | typeof USUAL>[] {
  const words = (kind: NonNullable<Layer['notReady']>): string => {
    switch (kind) {
      case 'atOnce':
        return 'go out at once';
      case 'wait':
        return 'wait for it, a quarter of a second at most';
      case 'silent':
        return 'are silent';
      case 'stay':
        return 'play the sound of the patch before';
      default:
        return assertNever(kind);
    }
  };
  const usual = isOutboard ? 'wait' : 'stay';
  return [
    { value: USUAL, label: `${words(usual)}, as usual` },
    ...(['atOnce', 'wait', 'silent', ...(isOutboard ? [] : (['stay'] as const))] as const).map((kind) => ({
      value: kind,
      label: words(kind),
    })),
  ];
}
