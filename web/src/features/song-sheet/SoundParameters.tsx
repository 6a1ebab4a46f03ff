import { PARAMETERS, parameterName } from '@rackle/core/controls';
import { controllerName } from '@rackle/core/midi';
import { SOUND_CONTROLLER_REST, type SoundParameter } from '@rackle/core/show';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';

const FIRST = 70;
const LAST = 79;
const OF_BUILT_INS = PARAMETERS.map(({ controller }) => controller).filter(
  (controller) => controller >= FIRST && controller <= LAST,
);
const OF_GEAR = Array.from({ length: LAST - FIRST + 1 }, (_, i) => FIRST + i);

interface Props {
  /** As the patch has them. */
  part: readonly SoundParameter[];
  /** As the blend that is looked at has them besides, or null: the patch itself is looked at. */
  blend: readonly SoundParameter[] | null;
  outboard: boolean;
  onChange: (label: string, parameters: SoundParameter[]) => void;
}

const valueOf = (parameters: readonly SoundParameter[], controller: number): number | null =>
  parameters.find((parameter) => parameter.controller === controller)?.value ?? null;
const awayText = (value: number): string =>
  value === SOUND_CONTROLLER_REST
    ? 'as it is'
    : value > SOUND_CONTROLLER_REST
      ? `+${value - SOUND_CONTROLLER_REST}`
      : `−${SOUND_CONTROLLER_REST - value}`;

/** “brighter, longer”: a typed +20 counts from rest. */
function readAway(text: string): number | null {
  if (/as it is/i.test(text)) return SOUND_CONTROLLER_REST;
  const away = Number(text.replace('−', '-'));
  return text.trim() === '' || !Number.isInteger(away) ? null : SOUND_CONTROLLER_REST + away;
}

/**
 * What a patch or a blend makes of a layer's sound without another preset: brightness, attack and the like, away from
 * what the preset has.
 */
export function SoundParameters({ part, blend, outboard, onChange }: Props) {
  const own = blend ?? part;
  const shown = [...new Set([...part, ...(blend ?? [])].map(({ controller }) => controller))].sort((a, b) => a - b);
  const name = outboard ? controllerName : parameterName;
  const set = (controller: number, value: number): void =>
    onChange(`change the ${name(controller)}`, [
      ...own.filter((parameter) => parameter.controller !== controller),
      { controller, value },
    ]);
  const free = (outboard ? OF_GEAR : OF_BUILT_INS).filter((controller) => !shown.includes(controller));
  return (
    <p className="leading-8">
      {shown.map((controller) => {
        const value = (blend && valueOf(blend, controller)) ?? valueOf(part, controller) ?? SOUND_CONTROLLER_REST;
        const differs = blend !== null && value !== (valueOf(part, controller) ?? SOUND_CONTROLLER_REST);
        return (
          <span key={controller} className="mr-1">
            {name(controller)}{' '}
            <NumberField
              label={name(controller)}
              value={value}
              min={0}
              max={127}
              show={awayText}
              read={readAway}
              className={differs ? 'border-b-2 !border-solid font-bold' : ''}
              onChange={(next) => set(controller, next)}
            />
            {valueOf(own, controller) !== null && (
              <Button
                look="plain"
                className="not-pointer-coarse:min-h-0!"
                aria-label={`leave ${name(controller)} ${blend ? 'as the patch has it' : 'as the preset has it'}`}
                onClick={() =>
                  onChange(
                    `leave the ${name(controller)}`,
                    own.filter((parameter) => parameter.controller !== controller),
                  )
                }
              >
                ×
              </Button>
            )}{' '}
            ·
          </span>
        );
      })}
      {free.length > 0 && (
        <Choice
          label="change the sound here"
          value="-"
          items={[
            { value: '-', label: shown.length === 0 ? 'the sound as its preset has it; change …' : 'change …' },
            ...free.map((controller) => ({ value: String(controller), label: name(controller) })),
          ]}
          onChange={(controller) => {
            if (controller !== '-') set(Number(controller), SOUND_CONTROLLER_REST);
          }}
        />
      )}
    </p>
  );
}
